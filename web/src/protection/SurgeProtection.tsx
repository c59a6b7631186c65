import { useEffect, useState } from "react";
import type { Board, Spd, SurgeRisk } from "../api/client";
import { Answer } from "../circuits";
import { useJob } from "../job/JobContext";
import { freeId, withBoard } from "../job/jobModel";
import { Button } from "../ui/Button";
import { fromYesNo, YES_NO, yesNo } from "../ui/Check";
import { Choice, Field, FigureField, TextBox } from "../ui/Field";

/** Whether surge protection is asked for, who decided, and each device with its leads. */
export function SurgeProtection() {
  const { document, assessment, focus, edit } = useJob();
  const plan = document.surge;
  const set = (part: Partial<SurgeRisk>) => edit({ ...document, surge: { ...plan, ...part } });
  useEffect(() => {
    focus({ check: "surge", circuit: "supply" });
    return () => focus(undefined);
  }, [focus]);
  const finding = assessment?.findings.find((finding) => finding.check === "surge");
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="flex flex-col gap-4">
        <section aria-label="What it goes by" className="rounded-xl border border-line bg-sheet p-4">
          <h2 className="mb-2 font-semibold">What it goes by</h2>
          <div className="grid gap-3 sm:grid-cols-3">
            <Choice
              label="Lightning protection on the building"
              value={yesNo(plan.lightning_protection)}
              options={YES_NO}
              onCommit={(value) => set({ lightning_protection: fromYesNo(value) })}
            />
            <Choice
              label="Supplied by an overhead line"
              value={yesNo(plan.overhead_line)}
              options={YES_NO}
              onCommit={(value) => set({ overhead_line: fromYesNo(value) })}
            />
            <Choice
              label="An overvoltage could cost"
              value={plan.consequence ?? ""}
              options={[
                { value: "", label: "not asked yet" },
                { value: "ordinary", label: "appliances, no more" },
                { value: "money-or-data", label: "much money or data" },
                { value: "safety", label: "life, or a safety service" },
              ]}
              onCommit={(value) => set({ consequence: (value || null) as SurgeRisk["consequence"] })}
            />
            <FigureField
              label="Wiring to the furthest equipment"
              unit="m"
              value={plan.furthest_m}
              onCommit={(furthest_m) => set({ furthest_m })}
            />
            <FigureField
              label="The most delicate equipment stands"
              unit="kV"
              value={plan.withstand_kv}
              empty="its category"
              onCommit={(withstand_kv) => set({ withstand_kv })}
            />
          </div>
        </section>
        {(document.boards ?? []).map((board) => (
          <BoardDevices key={board.id} board={board} />
        ))}
        <Declining plan={plan} onChange={(declined) => set({ declined })} />
      </div>
      <section aria-label="Finding" className="rounded-xl border border-line bg-sheet p-4">
        <h2 className="mb-2 font-semibold">Is surge protection there where it is asked for?</h2>
        {finding && <Answer finding={finding} />}
      </section>
    </div>
  );
}

const TYPES = ["1", "1+2", "2", "3"].map((type) => ({ value: type, label: type }));
const FIGURES = [
  ["up_kv", "Up", "kV", "as marked"],
  ["uc_v", "Uc", "V", "as marked"],
  ["discharge_ka", "In or Iimp", "kA", "as marked"],
  ["short_circuit_ka", "Short-circuit rating", "kA", "with its backup"],
  ["leads_m", "Leads, both sides", "m", "line and earth side"],
  ["live_mm2", "Live lead", "mm²", ""],
  ["earth_mm2", "Earth lead", "mm²", ""],
  ["backup_a", "Own backup device", "A", "none: what is ahead"],
  ["max_backup_a", "Maker allows ahead", "A", ""],
  ["years", "In service", "years", ""],
] as const;

function BoardDevices({ board }: { board: Board }) {
  const { document, edit } = useJob();
  const devices = board.spds ?? [];
  const keep = (surge: Spd[]) => edit(withBoard(document, { ...board, spds: surge }));
  const set = (id: string, part: Partial<Spd>) =>
    keep(devices.map((device) => (device.id === id ? { ...device, ...part } : device)));
  const add = (form: Spd["form"]) =>
    keep([
      ...devices,
      {
        id: freeId("s", devices),
        name: form === "plug-on" ? "Plug-on surge device" : "Surge device",
        type: "2",
        form,
        spark_gap_to_earth: false,
        status: "unchecked",
      },
    ]);
  return (
    <section
      aria-label={`Surge devices, ${board.name}`}
      className="rounded-xl border border-line bg-sheet p-4"
    >
      <h2 className="mb-2 font-semibold">{board.name}</h2>
      {devices.map((device) => (
        <div key={device.id} className="mb-4 grid items-start gap-2 sm:grid-cols-5">
          <Field label="Device">
            {(id) => (
              <TextBox
                id={id}
                value={device.name}
                maxLength={120}
                onCommit={(name) => name.trim() && set(device.id, { name: name.trim() })}
              />
            )}
          </Field>
          <Choice
            label="Type"
            value={device.type}
            options={TYPES}
            onCommit={(type) => set(device.id, { type: type as Spd["type"] })}
          />
          <Choice
            label="Fitted"
            value={device.form}
            options={[
              { value: "wired", label: "wired, with leads" },
              { value: "plug-on", label: "plugged onto the bars" },
            ]}
            onCommit={(form) => set(device.id, { form: form as Spd["form"] })}
          />
          <Choice
            label="Window"
            value={device.status}
            options={[
              { value: "unchecked", label: "not looked at" },
              { value: "green", label: "green" },
              { value: "red", label: "red: spent" },
            ]}
            onCommit={(status) => set(device.id, { status: status as Spd["status"] })}
          />
          <Choice
            label="Neutral to earth"
            value={device.spark_gap_to_earth ? "gap" : "direct"}
            options={[
              { value: "direct", label: "by a varistor" },
              { value: "gap", label: "by a spark gap" },
            ]}
            onCommit={(form) => set(device.id, { spark_gap_to_earth: form === "gap" })}
          />
          {FIGURES.map(([name, label, unit, hint]) => (
            <FigureField
              key={name}
              label={label}
              unit={unit}
              hint={hint}
              empty={
                name === "leads_m" && board.build.device_positions.length
                  ? "as the board is drawn"
                  : undefined
              }
              value={device[name]}
              onCommit={(value) =>
                set(device.id, { [name]: name === "years" && value ? Math.round(value) : value })
              }
            />
          ))}
          <Button
            variant="quiet"
            className="self-end justify-self-start"
            onClick={() => keep(devices.filter((other) => other.id !== device.id))}
          >
            Take out
          </Button>
        </div>
      ))}
      <div className="flex gap-2">
        <Button onClick={() => add("wired")}>Add a wired device</Button>
        <Button onClick={() => add("plug-on")}>Add a plug-on device</Button>
      </div>
      {devices.length > 0 && <FormsCompared />}
    </section>
  );
}

/** What speaks for either form; common practice. */
function FormsCompared() {
  return (
    <details className="mt-3 text-[12.5px]">
      <summary className="cursor-pointer text-accent">Plug-on or wired?</summary>
      <div className="mt-1 grid gap-3 text-soft sm:grid-cols-2">
        <p>
          <b className="text-ink">Plugged onto the bars:</b> next to no leads, quickly fitted, no backup
          device of its own as a rule; takes ways beside the main switch, belongs to its family of boards, and
          comes in smaller ratings.
        </p>
        <p>
          <b className="text-ink">Wired:</b> larger ratings and any make; every metre of lead adds about a
          kilovolt, and its own breaker sets the size of its leads (20 A: 2.5 mm², 32 A: 4 mm², 63 A: 6 mm²).
        </p>
      </div>
    </details>
  );
}

/** The owner's decision to do without: who, when, why. It is kept with the job. */
function Declining({
  plan,
  onChange,
}: {
  plan: SurgeRisk;
  onChange: (declined: SurgeRisk["declined"]) => void;
}) {
  const declined = plan.declined;
  const [by, setBy] = useState(declined?.name ?? "");
  const [on, setOn] = useState(declined?.date ?? "");
  const [why, setWhy] = useState(declined?.reason ?? "");
  const box = "w-full rounded-md border border-line bg-sheet px-2 py-1";
  return (
    <section aria-label="Declined by the owner" className="rounded-xl border border-line bg-sheet p-4">
      <h2 className="mb-2 font-semibold">Declined by the owner</h2>
      {declined ? (
        <div className="flex items-start justify-between gap-3 text-[13px]">
          <p data-testid="declined">
            {declined.in_writing === true
              ? "Declined in writing: "
              : declined.in_writing === false
                ? "Declined in speech only: "
                : "Declined; in writing? "}
            {declined.name}, {declined.date}: {declined.reason}
          </p>
          <Choice
            label="In writing, signed"
            value={yesNo(declined.in_writing)}
            options={YES_NO}
            onCommit={(value) => onChange({ ...declined, in_writing: fromYesNo(value) })}
          />
          <Button onClick={() => onChange(null)}>Take the decision back</Button>
        </div>
      ) : (
        <form
          className="grid items-end gap-3 sm:grid-cols-[1fr_10rem_2fr_auto]"
          onSubmit={(event) => {
            event.preventDefault();
            onChange({ name: by.trim(), date: on, reason: why.trim(), in_writing: null });
          }}
        >
          <Field label="Who">
            {(id) => (
              <input
                id={id}
                required
                maxLength={120}
                className={box}
                value={by}
                onChange={(e) => setBy(e.target.value)}
              />
            )}
          </Field>
          <Field label="When">
            {(id) => (
              <input
                id={id}
                required
                type="date"
                className={box}
                value={on}
                onChange={(e) => setOn(e.target.value)}
              />
            )}
          </Field>
          <Field label="Why">
            {(id) => (
              <input
                id={id}
                required
                maxLength={1000}
                className={box}
                value={why}
                onChange={(e) => setWhy(e.target.value)}
              />
            )}
          </Field>
          <Button type="submit">Write down</Button>
        </form>
      )}
    </section>
  );
}
