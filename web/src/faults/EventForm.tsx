import type { FaultEvent, FaultKindLine } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Choice, Field, FigureField } from "../ui/Field";
import { begun, counted, placeText, rcdIds } from "./eventModel";

/** What happens, where, and how much of it: only the fields that count for the kind are shown. */
export function EventForm({
  event,
  kinds,
  onChange,
}: {
  event: FaultEvent;
  kinds: FaultKindLine[];
  onChange: (event: FaultEvent) => void;
}) {
  const { document } = useJob();
  const fields = counted(event, kinds);
  const set = (part: Partial<FaultEvent>) => onChange({ ...event, ...part });
  const circuits = (document.circuits ?? []).map((circuit) => ({ value: circuit.id, label: circuit.name }));
  const standbys = (document.boards ?? []).flatMap((board) =>
    board.standby ? [{ value: board.id, label: `${board.standby.name}, ${board.name}` }] : [],
  );
  const lines = document.circuits?.find((circuit) => circuit.id === event.circuit)?.lines ?? [];
  return (
    <form
      aria-label={t("web.faults.form.section")}
      className="grid items-start gap-3 sm:grid-cols-4"
      onSubmit={(submitted) => submitted.preventDefault()}
    >
      <Choice
        label={t("web.faults.form.event")}
        value={event.kind}
        options={kinds.map((kind) => ({ value: kind.kind, label: say(kind.title) }))}
        onCommit={(kind) => {
          const next = begun(kind as FaultEvent["kind"], event.circuit ?? undefined);
          onChange({ ...next, at: event.at, other: event.other, rcd: event.rcd, other_rcd: event.other_rcd });
        }}
      />
      {fields.has("circuit") && (
        <Choice
          label={t("web.faults.form.circuit")}
          value={event.circuit ?? ""}
          options={circuits}
          onCommit={(circuit) => set({ circuit, line: null })}
        />
      )}
      {fields.has("standby") && standbys.length > 0 && (
        <Choice
          label={t("web.faults.form.supplied_by")}
          value={event.standby ?? ""}
          options={[{ value: "", label: t("web.faults.form.supply") }, ...standbys]}
          onCommit={(board) => set({ standby: board || null })}
        />
      )}
      <OtherFields event={event} fields={fields} circuits={circuits} set={set} />
      {fields.has("line") && lines.length > 1 && (
        <Choice
          label={t("web.faults.form.line")}
          value={event.line ?? lines[0] ?? ""}
          options={lines.map((line) => ({ value: line, label: line }))}
          onCommit={(line) => set({ line: line as FaultEvent["line"] })}
        />
      )}
      {fields.has("at") && (
        <Field label={t("web.faults.form.place", { place: placeText(event.at) })}>
          {(id) => (
            <input
              id={id}
              type="range"
              min={0}
              max={100}
              step={5}
              className="mt-1.5 w-full accent-accent"
              value={Math.round(event.at * 100)}
              aria-valuetext={placeText(event.at)}
              onChange={(change) => set({ at: Number(change.target.value) / 100 })}
            />
          )}
        </Field>
      )}
      {FIGURES()
        .filter(([name]) => fields.has(name))
        .map(([name, label, unit]) => (
          <FigureField
            key={name}
            label={label}
            unit={unit}
            required={name !== "ohm"}
            value={event[name]}
            onCommit={(value) => set({ [name]: value ?? 0 })}
          />
        ))}
      {fields.has("waveform") && (
        <Choice
          label={t("web.faults.form.waveform")}
          value={event.waveform}
          options={[
            { value: "ac", label: t("web.faults.form.ac") },
            { value: "pulsating", label: t("web.faults.form.pulsating") },
            { value: "smooth", label: t("web.faults.form.smooth") },
          ]}
          onCommit={(waveform) => set({ waveform: waveform as FaultEvent["waveform"] })}
        />
      )}
      {fields.has("running") && (
        <Choice
          label={t("web.faults.form.load")}
          value={event.running === null || event.running === undefined ? "" : String(event.running)}
          options={[
            { value: "", label: t("web.faults.form.load_typical") },
            { value: "0", label: t("web.faults.form.load_none") },
            { value: "0.5", label: t("web.faults.form.load_half") },
            { value: "1", label: t("web.faults.form.load_all") },
          ]}
          onCommit={(running) => set({ running: running === "" ? null : Number(running) })}
        />
      )}
    </form>
  );
}

/** The second circuit, and the RCDs, of the kinds of event that have them. */
function OtherFields({
  event,
  fields,
  circuits,
  set,
}: {
  event: FaultEvent;
  fields: ReadonlySet<string>;
  circuits: { value: string; label: string }[];
  set: (part: Partial<FaultEvent>) => void;
}) {
  const { document } = useJob();
  const rcds = rcdIds(document);
  return (
    <>
      {fields.has("other") && (
        <Choice
          label={
            event.kind === "borrowed-neutral"
              ? t("web.faults.form.other_borrowed")
              : t("web.faults.form.other_bar")
          }
          value={event.other ?? ""}
          options={[
            {
              value: "",
              label:
                event.kind === "borrowed-neutral"
                  ? t("web.faults.form.other_choose")
                  : t("web.faults.form.other_main"),
            },
            ...circuits.filter((circuit) => circuit.value !== event.circuit),
          ]}
          onCommit={(other) => set({ other: other || null })}
        />
      )}
      {fields.has("rcd") && (
        <Choice
          label={t("web.faults.form.rcd")}
          value={event.rcd ?? ""}
          options={rcds.length ? rcds : [{ value: "", label: t("web.faults.form.rcd_none") }]}
          onCommit={(rcd) => set({ rcd: rcd || null })}
        />
      )}
      {fields.has("other_rcd") && (
        <Choice
          label={t("web.faults.form.rcd_second")}
          value={event.other_rcd ?? ""}
          options={rcds.length > 1 ? rcds : [{ value: "", label: t("web.faults.form.rcd_second_none") }]}
          onCommit={(other_rcd) => set({ other_rcd: other_rcd || null })}
        />
      )}
    </>
  );
}

const FIGURES = () =>
  [
    ["amps", t("web.faults.form.amps"), "A"],
    ["milliamps", t("web.faults.form.leakage"), "mA"],
    ["ohm", t("web.faults.form.resistance"), "Ω"],
    ["volts", t("web.faults.form.voltage"), "V"],
    ["surge_kv", t("web.faults.form.surge"), "kV"],
    ["electrode_ohm", t("web.faults.form.electrode"), "Ω"],
  ] as const;
