import { Trash2 } from "lucide-react";
import type { Circuit, Load } from "../../api/client";
import { blankLoad } from "../../job/blank";
import { useJob } from "../../job/JobContext";
import { Button } from "../../ui/Button";
import { Check } from "../../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../../ui/Field";
import { type Change, Part } from "./Part";
import { PositionPart } from "./PositionPart";
import { ResidualPart } from "./ResidualPart";

/** What the circuit feeds. */
export function LoadsPart({ circuit, change }: { circuit: Circuit; change: Change }) {
  const { document, rules } = useJob();
  const loads = circuit.loads ?? [];
  const rooms = document.rooms ?? [];
  const set = (at: number, part: Partial<Load>) =>
    change({ loads: loads.map((load, index) => (index === at ? { ...load, ...part } : load)) });
  return (
    <Part title="Loads">
      {loads.map((load, at) => (
        <div key={at} className="mb-3">
          <div className="grid items-start gap-2 sm:grid-cols-[1fr_7rem_4rem_6rem_5rem_8rem_2rem]">
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
              empty="not counted"
              value={load.count}
              onCommit={(count) => set(at, { count: count ? Math.round(count) : null })}
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
              variant="quiet"
              className="mt-5"
              aria-label={`Take ${load.name} out`}
              onClick={() => change({ loads: loads.filter((_, index) => index !== at) })}
            >
              <Trash2 size={14} aria-hidden />
            </Button>
          </div>
          <Unusual circuit={circuit} load={load} set={(part) => set(at, part)} />
          <ResidualPart load={load} set={(part) => set(at, part)} />
          <PositionPart item={load} set={(part) => set(at, part)} />
        </div>
      ))}
      <Button
        onClick={() =>
          change({
            loads: [...loads, blankLoad("New load")],
          })
        }
      >
        Another load
      </Button>
    </Part>
  );
}

/** What few loads have: opened where one of it is stated, and otherwise only when it is asked for. */
function Unusual({
  circuit,
  load,
  set,
}: {
  circuit: Circuit;
  load: Load;
  set: (part: Partial<Load>) => void;
}) {
  const { rules } = useJob();
  const assumed = rules.loads.find((known) => known.kind === load.kind)?.starts_at;
  const several = (circuit.lines?.length ?? 0) > 1;
  const stated =
    load.continuous ||
    load.duty_pct ||
    load.starting_multiple ||
    load.at_peak ||
    load.third_harmonic_pct ||
    load.along_m != null ||
    load.surge_type_3 ||
    (load.lines?.length ?? 0) > 0;
  return (
    <details className="mt-1 pl-1" open={Boolean(stated)}>
      <summary className="cursor-pointer text-[12px] text-accent">
        Start, duty, at peak, position, harmonics, lines
      </summary>
      <div className="mt-1 grid items-start gap-2 sm:grid-cols-5">
        {several && (
          <Choice
            label="On"
            value={load.lines?.[0] ?? ""}
            options={[
              { value: "", label: "all its lines" },
              ...(circuit.lines ?? []).map((line) => ({ value: line, label: line })),
            ]}
            onCommit={(line) => set({ lines: line ? [line as "L1"] : [] })}
          />
        )}
        <FigureField
          label="Starts at"
          unit="× I"
          value={load.starting_multiple}
          empty={assumed ? `${assumed}, assumed` : "1"}
          onCommit={(starting_multiple) => set({ starting_multiple })}
        />
        <FigureField
          label="Duty"
          unit="%"
          value={load.duty_pct}
          empty="100"
          onCommit={(duty_pct) => set({ duty_pct })}
        />
        <Choice
          label="At peak demand"
          value={load.at_peak ?? ""}
          options={[
            { value: "", label: "by diversity" },
            { value: "always", label: "certainly on" },
            { value: "managed", label: "reduced by load management" },
            { value: "off", label: "off: time or priority switch" },
          ]}
          onCommit={(at_peak) => set({ at_peak: (at_peak || null) as Load["at_peak"] })}
        />
        <FigureField
          label="Along the run at"
          unit="m"
          value={load.along_m}
          empty="the end"
          onCommit={(along_m) => set({ along_m })}
        />
        <FigureField
          label="Third harmonic"
          unit="%"
          value={load.third_harmonic_pct}
          empty="none"
          onCommit={(third_harmonic_pct) => set({ third_harmonic_pct })}
        />
        <Check checked={load.continuous ?? false} onChange={(checked) => set({ continuous: checked })}>
          three hours or more
        </Check>
        <Check checked={load.surge_type_3 ?? false} onChange={(surge_type_3) => set({ surge_type_3 })}>
          SPD type 3 at it
        </Check>
        {load.kind === "cooker" && (
          <Check checked={load.with_socket ?? false} onChange={(checked) => set({ with_socket: checked })}>
            control unit with a socket
          </Check>
        )}
      </div>
    </details>
  );
}
