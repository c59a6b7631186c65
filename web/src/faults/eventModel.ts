import type { Assessment, FaultEvent, FaultKindLine, Job } from "../api/client";
import { t } from "../messages/text";

type Kind = FaultEvent["kind"];

/** An event with the figures it begins with. */
export function begun(kind: Kind, circuit: string | undefined): FaultEvent {
  return {
    kind,
    circuit: circuit ?? null,
    at: 1,
    amps: 50,
    ohm: kind === "loose-terminal" ? 0.05 : 0,
    milliamps: 30,
    waveform: "ac",
    volts: 280,
    surge_kv: 6,
    electrode_ohm: 20,
  };
}

/** The residual-current devices of a job by the ids the engine knows them by. */
export function rcdIds(job: Job): { value: string; label: string }[] {
  const circuits = new Map((job.circuits ?? []).map((circuit) => [circuit.id, circuit]));
  return (job.boards ?? []).flatMap((board) => [
    ...(board.main_switch?.rcd
      ? [{ value: `${board.id}:main`, label: t("web.faults.place.rcd_main", { board: board.name }) }]
      : []),
    ...(board.shared_rcds ?? []).map((group) => ({
      value: `${board.id}:${group.id}`,
      label: `${group.name}, ${board.name}`,
    })),
    ...(board.ways ?? []).flatMap((way) => {
      const circuit = circuits.get(way.circuit);
      const device = circuit?.device;
      return device && typeof device !== "string" && device.rcd
        ? [
            {
              value: `${board.id}:${way.circuit}`,
              label: t("web.faults.place.rcd_own", { circuit: circuit?.name }),
            },
          ]
        : [];
    }),
  ]);
}

/** The final circuit whose loop has the least margin: the fault to look at first. */
export function worstLoop(job: Job, assessment: Assessment | undefined): string | undefined {
  const final = new Set(
    (job.circuits ?? []).filter((circuit) => circuit.kind !== "distribution").map((circuit) => circuit.id),
  );
  const loops = (assessment?.findings ?? []).filter(
    ({ check, subject, margin }) =>
      check === "disconnection" && final.has(subject.id) && margin !== null && margin !== undefined,
  );
  return loops.sort((a, b) => (a.margin ?? 0) - (b.margin ?? 0))[0]?.subject.id;
}

/** The event as the document allows it: circuits and devices that are gone are replaced by those the view begins with. */
export function fitting(job: Job, wanted: FaultEvent | undefined, worst?: string): FaultEvent {
  const circuits = job.circuits ?? [];
  const first = worst ?? circuits.find((circuit) => circuit.kind !== "distribution")?.id;
  const event = wanted ?? begun("line-earth", first);
  const known = (id: string | null | undefined) => circuits.some((circuit) => circuit.id === id);
  const rcds = rcdIds(job).map((choice) => choice.value);
  const rcd = event.rcd && rcds.includes(event.rcd) ? event.rcd : (rcds[0] ?? null);
  const otherRcd =
    event.other_rcd && rcds.includes(event.other_rcd) && event.other_rcd !== rcd
      ? event.other_rcd
      : (rcds.find((other) => other !== rcd) ?? null);
  return {
    ...event,
    circuit: known(event.circuit) ? event.circuit : (first ?? null),
    other: known(event.other) ? event.other : null,
    standby: (job.boards ?? []).some((board) => board.id === event.standby && board.standby)
      ? event.standby
      : null,
    rcd,
    other_rcd: otherRcd,
  };
}

/** Only what counts for its kind, so that a figure of another kind is not sent along. */
export function counted(event: FaultEvent, kinds: readonly FaultKindLine[]): ReadonlySet<string> {
  return new Set(kinds.find((kind) => kind.kind === event.kind)?.fields);
}

/** The event without places that its kind knows nothing of, as it is asked for. */
export function trimmed(event: FaultEvent, kinds: readonly FaultKindLine[]): FaultEvent {
  const fields = counted(event, kinds);
  const kept = <Value>(name: string, value: Value) => (fields.has(name) ? value : null);
  return {
    ...event,
    circuit: kept("circuit", event.circuit),
    other: kept("other", event.other),
    rcd: kept("rcd", event.rcd),
    other_rcd: kept("other_rcd", event.other_rcd),
  };
}

/** A share of the run in words. */
export function placeText(at: number): string {
  if (at <= 0) return t("web.faults.place.board");
  return at >= 1 ? t("web.faults.place.end") : t("web.faults.place.along", { n: Math.round(at * 100) });
}
