import { Trash2 } from "lucide-react";
import type { Cable, Circuit, Device, Load, Section } from "../api/client";
import { useJob } from "../job/JobProvider";
import { circuitById, freePlaces, movedTo, placeOf, withCircuits } from "../job/jobModel";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";

const KINDS = [
  { value: "ring", label: "Ring" },
  { value: "radial", label: "Radial, sockets" },
  { value: "lighting", label: "Lighting" },
  { value: "fixed", label: "Fixed appliance" },
  { value: "distribution", label: "Distribution, to another board" },
];

/** What belongs to one way of laying alone, and does not go over to another. */
const LEFT_BEHIND = { grouping: null, in_insulation_mm: null, soil_k_m_per_w: null };

type Change = (part: Partial<Circuit>) => void;

/** Everything a circuit is made of. Each change is assessed and kept as it is made. */
export function CircuitDialog({
  id,
  onClose,
  onRemove,
}: {
  id: string;
  onClose: () => void;
  onRemove: () => void;
}) {
  const { document, edit, message } = useJob();
  const circuit = circuitById(document, id);
  if (!circuit) return null;
  const change: Change = (part) => edit(withCircuits(document, [{ ...circuit, ...part }]));
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={circuit.name}
      description="Each change counts at once; undo takes it back."
      wide
    >
      {message && (
        <p role="alert" className="mb-2 text-[13px] text-fail">
          {message}
        </p>
      )}
      <div className="grid gap-3 sm:grid-cols-4">
        <Field label="Name">
          {(field) => (
            <TextBox
              id={field}
              value={circuit.name}
              maxLength={120}
              onCommit={(name) => name.trim() && change({ name: name.trim() })}
            />
          )}
        </Field>
        <Choice
          label="Kind"
          value={circuit.kind}
          options={KINDS}
          onCommit={(kind) => change({ kind: kind as Circuit["kind"] })}
        />
        <PlacePart circuit={circuit} />
        <FigureField
          label="Design current"
          unit="A"
          value={circuit.design_current_a}
          empty="by loads"
          hint="Stated, it takes the place of the loads."
          onCommit={(design_current_a) => change({ design_current_a })}
        />
      </div>
      <DevicePart circuit={circuit} change={change} />
      <CablePart circuit={circuit} change={change} />
      <RunPart circuit={circuit} change={change} />
      <LoadsPart circuit={circuit} change={change} />
      <div className="mt-5 flex justify-between">
        <Button
          onClick={() => {
            onRemove();
            onClose();
          }}
        >
          <Trash2 size={14} aria-hidden /> Take the circuit out
        </Button>
        <Button look="strong" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}

/** The way it sits in; moving it takes along the board it feeds. */
function PlacePart({ circuit }: { circuit: Circuit }) {
  const { document, edit } = useJob();
  const here = placeOf(document, circuit.id);
  const names = new Map((document.boards ?? []).map((board) => [board.id, board.name]));
  const places = [...(here ? [here] : []), ...freePlaces(document, circuit.id)];
  return (
    <Choice
      label="Sits in"
      value={here ? `${here.board} ${here.way}` : ""}
      options={places.map((place) => ({
        value: `${place.board} ${place.way}`,
        label: `${names.get(place.board)}, way ${place.way}`,
      }))}
      onCommit={(chosen) => {
        const place = places.find((known) => `${known.board} ${known.way}` === chosen);
        if (place) edit(movedTo(document, circuit.id, place));
      }}
    />
  );
}

function Part({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <fieldset className="mt-4 border-t border-line pt-2">
      <legend className="pr-2 text-[13px] font-semibold">{title}</legend>
      {children}
    </fieldset>
  );
}

function DevicePart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const device = circuit.device && typeof circuit.device !== "string" ? circuit.device : undefined;
  const kind = rules.devices.find((known) => known.id === device?.kind);
  const set = (part: Partial<Device>) => device && change({ device: { ...device, ...part } });
  const choose = (id: string) => {
    const next = rules.devices.find((known) => known.id === id);
    if (!next) return change({ device: "auto" });
    const rating =
      next.ratings_a.find((rating_a) => rating_a >= (device?.rating_a ?? 0)) ?? next.ratings_a.at(-1) ?? 0;
    change({
      device: {
        kind: id,
        rating_a: rating,
        curve: next.curves.length ? (device?.curve ?? "B") : null,
        breaking_ka:
          next.breaking_choices_ka.length === 1 || next.action === "breaker"
            ? next.breaking_choices_ka[0]
            : null,
        rcd: next.has_rcd ? (device?.rcd ?? { idn_ma: 30, type: "A", delayed: false }) : null,
      },
    });
  };
  return (
    <Part title="Protective device">
      <div className="grid gap-3 sm:grid-cols-4">
        <Choice
          label="Kind"
          value={device?.kind ?? "auto"}
          options={[
            { value: "auto", label: "Choose for me" },
            ...rules.devices.map((known) => ({
              value: known.id,
              label: `${known.short}: ${known.title}${known.current ? "" : " (old)"}`,
            })),
          ]}
          onCommit={choose}
        />
        {device && kind && (
          <>
            <Choice
              label="Rating [A]"
              value={String(device.rating_a)}
              options={kind.ratings_a.map((rating) => ({ value: String(rating), label: String(rating) }))}
              onCommit={(rating) => set({ rating_a: Number(rating) })}
            />
            {kind.curves.length > 0 && (
              <Choice
                label="Characteristic"
                value={device.curve ?? ""}
                options={kind.curves.map((curve) => ({ value: curve, label: curve }))}
                onCommit={(curve) => set({ curve: curve as Device["curve"] })}
              />
            )}
            <FigureField
              label="Breaks"
              unit="kA"
              value={device.breaking_ka}
              hint="As marked on it."
              onCommit={(breaking_ka) => set({ breaking_ka })}
            />
            {device.rcd && (
              <>
                <FigureField
                  label="IΔn"
                  unit="mA"
                  required
                  value={device.rcd.idn_ma}
                  onCommit={(idn_ma) => idn_ma && set({ rcd: { ...device.rcd, idn_ma } as Device["rcd"] })}
                />
                <Choice
                  label="RCD type"
                  value={device.rcd.type ?? "A"}
                  options={["AC", "A", "F", "B"].map((type) => ({ value: type, label: type }))}
                  onCommit={(type) => set({ rcd: { ...device.rcd, type } as Device["rcd"] })}
                />
              </>
            )}
          </>
        )}
      </div>
    </Part>
  );
}

const CPC: Record<string, string> = {
  included: "made into the cable",
  core: "a core of the cable",
  armour: "the armour",
  separate: "run separately",
};

function CablePart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const cable = circuit.cable && typeof circuit.cable !== "string" ? circuit.cable : undefined;
  const kind = rules.cables.find((known) => known.id === cable?.type);
  const set = (part: Partial<Cable>) => cable && change({ cable: { ...cable, ...part } });
  const choose = (id: string) => {
    const next = rules.cables.find((known) => known.id === id);
    if (!next) return change({ cable: "auto" });
    const area =
      next.sizes_mm2.find((size) => size >= (cable?.area_mm2 ?? 2.5)) ?? next.sizes_mm2.at(-1) ?? 0;
    change({ cable: { type: id, area_mm2: area, cpc: next.cpc_choices[0] as Cable["cpc"], cpc_mm2: null } });
  };
  return (
    <Part title="Cable">
      <div className="grid gap-3 sm:grid-cols-4">
        <Choice
          label="Kind"
          value={cable?.type ?? "auto"}
          options={[
            { value: "auto", label: "Choose for me" },
            ...rules.cables.map((known) => ({ value: known.id, label: known.title })),
          ]}
          onCommit={choose}
        />
        {cable && kind && (
          <>
            <Choice
              label="Size [mm²]"
              value={String(cable.area_mm2)}
              options={kind.sizes_mm2.map((size) => ({ value: String(size), label: String(size) }))}
              onCommit={(size) => set({ area_mm2: Number(size), cpc_mm2: null })}
            />
            <Choice
              label={`The ${rules.words.protective_conductor} is`}
              value={cable.cpc ?? "included"}
              options={kind.cpc_choices.map((choice) => ({ value: choice, label: CPC[choice] ?? choice }))}
              onCommit={(cpc) => set({ cpc: cpc as Cable["cpc"], cpc_mm2: null })}
            />
            <FigureField
              label={`${rules.words.protective_conductor} size`}
              unit="mm²"
              value={cable.cpc_mm2}
              empty="as made up"
              onCommit={(cpc_mm2) => set({ cpc_mm2 })}
            />
          </>
        )}
      </div>
    </Part>
  );
}

function RunPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { rules } = useJob();
  const set = (at: number, part: Partial<Section>) =>
    change({ run: circuit.run.map((section, index) => (index === at ? { ...section, ...part } : section)) });
  const last = circuit.run.at(-1);
  return (
    <Part
      title={
        circuit.kind === "ring" ? "Run: once round the whole loop" : "Run, from the board to the far end"
      }
    >
      {circuit.run.map((section, at) => {
        const medium = rules.methods.find((method) => method.id === section.method)?.medium ?? "air";
        const groupings = rules.groupings.filter((grouping) => grouping.medium === medium);
        return (
          <div
            key={at}
            className="mb-3 grid items-start gap-2 sm:grid-cols-[6rem_1fr_6rem_5rem_1fr_6rem_2rem]"
          >
            <FigureField
              label="Length"
              unit="m"
              value={section.length_m}
              onCommit={(length_m) => set(at, { length_m })}
            />
            <Choice
              label="Laid"
              value={section.method}
              options={rules.methods.map((method) => ({
                value: method.id,
                label: `${method.id}: ${method.title}`,
              }))}
              onCommit={(method) => set(at, { method, ...LEFT_BEHIND })}
            />
            <FigureField
              label={medium === "ground" ? "Ground" : "Air"}
              empty={String(rules.ambients_c[medium] ?? "")}
              unit="°C"
              value={section.ambient_c}
              onCommit={(ambient_c) => set(at, { ambient_c })}
            />
            <FigureField
              label="Grouped"
              unit=""
              required
              value={section.circuits_grouped ?? 1}
              onCommit={(count) => count && set(at, { circuits_grouped: Math.round(count) })}
            />
            <Choice
              label="Grouped how"
              value={section.grouping ?? ""}
              options={[
                { value: "", label: "the usual" },
                ...groupings.map((grouping) => ({ value: grouping.id, label: grouping.title })),
              ]}
              onCommit={(grouping) => set(at, { grouping: grouping || null })}
            />
            {medium === "ground" ? (
              <FigureField
                label="Soil"
                unit="K·m/W"
                empty="by table"
                value={section.soil_k_m_per_w}
                onCommit={(soil_k_m_per_w) => set(at, { soil_k_m_per_w })}
              />
            ) : (
              <FigureField
                label="Insulation"
                empty="none"
                unit="mm"
                value={section.in_insulation_mm}
                onCommit={(in_insulation_mm) => set(at, { in_insulation_mm })}
              />
            )}
            {circuit.run.length > 1 && (
              <Button
                look="quiet"
                className="mt-5"
                aria-label={`Take section ${at + 1} out`}
                onClick={() => change({ run: circuit.run.filter((_, index) => index !== at) })}
              >
                <Trash2 size={14} aria-hidden />
              </Button>
            )}
          </div>
        );
      })}
      {last && (
        <Button onClick={() => change({ run: [...circuit.run, { ...last, length_m: null }] })}>
          Another section
        </Button>
      )}
    </Part>
  );
}

function LoadsPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document, rules } = useJob();
  const loads = circuit.loads ?? [];
  const rooms = document.rooms ?? [];
  const set = (at: number, part: Partial<Load>) =>
    change({ loads: loads.map((load, index) => (index === at ? { ...load, ...part } : load)) });
  return (
    <Part title="Loads">
      {loads.map((load, at) => (
        <div
          key={at}
          className="mb-3 grid items-start gap-2 sm:grid-cols-[1fr_7rem_4rem_6rem_5rem_8rem_2rem]"
        >
          <Field label="Name">
            {(field) => (
              <TextBox
                id={field}
                value={load.name}
                maxLength={120}
                onCommit={(name) => name.trim() && set(at, { name: name.trim() })}
              />
            )}
          </Field>
          <Choice
            label="Kind"
            value={load.kind}
            options={rules.loads.map(({ kind }) => ({ value: kind, label: kind }))}
            onCommit={(kind) => set(at, { kind: kind as Load["kind"] })}
          />
          <FigureField
            label="Count"
            unit=""
            required
            value={load.count ?? 1}
            onCommit={(count) => count && set(at, { count: Math.round(count) })}
          />
          <FigureField
            label="Power"
            unit="W"
            value={load.power_w}
            onCommit={(power_w) => set(at, { power_w })}
          />
          <FigureField
            label="cos φ"
            empty={rules.loads.find((known) => known.kind === load.kind)?.resistive ? "1" : "?"}
            unit=""
            value={load.power_factor}
            onCommit={(power_factor) => set(at, { power_factor })}
          />
          <Choice
            label="Room"
            value={load.room ?? ""}
            options={[
              { value: "", label: "–" },
              ...rooms.map((room) => ({ value: room.id, label: room.name })),
            ]}
            onCommit={(room) => set(at, { room: room || null })}
          />
          <Button
            look="quiet"
            className="mt-5"
            aria-label={`Take ${load.name} out`}
            onClick={() => change({ loads: loads.filter((_, index) => index !== at) })}
          >
            <Trash2 size={14} aria-hidden />
          </Button>
        </div>
      ))}
      <Button
        onClick={() =>
          change({ loads: [...loads, { name: "New load", kind: "appliance", count: 1, with_socket: false }] })
        }
      >
        Another load
      </Button>
    </Part>
  );
}
