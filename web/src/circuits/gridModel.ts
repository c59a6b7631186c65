import type {
  Board,
  CauseGroup,
  Circuit,
  CircuitFigures,
  Decision,
  Finding,
  Job,
  RuleSetView,
  Verdict,
} from "../api/client";
import type { Cell } from "../job/useAssessment";
import { sameText, say } from "../messages/say";
import { t } from "../messages/text";
import type { CheckGroup } from "./checkGroups";

export type Edit = RuleSetView["checks"][number]["decides"][number];

const EDITS: readonly Edit[] = ["device", "cable", "length", "method"];
const EDITS_OF_PROTECTION: readonly Edit[] = ["device"];
const EDITS_WITH_LINES: readonly Edit[] = ["device", "lines", "cable", "length", "method"];

/** The editable columns of a row, in order: which line feeds it only where the supply has more than one; beside what
 * protects, the device alone. */
export const editsOf = (job: Job, group: CheckGroup = "sizing"): readonly Edit[] => {
  if (group === "protection") return EDITS_OF_PROTECTION;
  return (job.supply.phases ?? 1) > 1 ? EDITS_WITH_LINES : EDITS;
};

/** A row of the lattice: the circuit and where it sits. */
export type Row = { circuit: Circuit; board: Board; way: number };

/** The rows of a job, board by board and way by way. */
export function rowsOf(job: Job): { board: Board; rows: Row[] }[] {
  const circuits = new Map((job.circuits ?? []).map((circuit) => [circuit.id, circuit]));
  return (job.boards ?? []).map((board) => ({
    board,
    rows: [...(board.ways ?? [])]
      .sort((a, b) => a.number - b.number)
      .flatMap((way) => {
        const circuit = circuits.get(way.circuit);
        return circuit ? [{ circuit, board, way: way.number }] : [];
      }),
  }));
}

/** A circuit's findings by check. */
export type RowFindings = ReadonlyMap<string, Finding>;

/**
 * The findings of each circuit. Where nothing that a row shows has changed, the map of before is handed out again, so
 * that only the rows a change concerns are drawn anew.
 */
export function findingsByRow(
  findings: Finding[],
  before: ReadonlyMap<string, RowFindings>,
): Map<string, RowFindings> {
  const rows = new Map<string, Map<string, Finding>>();
  for (const finding of findings) {
    if (finding.subject.kind !== "circuit") continue;
    const row = rows.get(finding.subject.id) ?? new Map<string, Finding>();
    rows.set(finding.subject.id, row.set(finding.check, finding));
  }
  return new Map(
    Array.from(rows, ([circuit, row]) => {
      const old = before.get(circuit);
      return [circuit, old && sameRow(old, row) ? old : row];
    }),
  );
}

function sameRow(old: RowFindings, row: RowFindings): boolean {
  if (old.size !== row.size) return false;
  for (const [check, finding] of row) {
    const { verdict, sentence, margin, shown_value, shown_limit, assumptions, accepted } = finding;
    const was = old.get(check);
    const same =
      was?.verdict === verdict &&
      was.accepted === accepted &&
      sameText(was.sentence, sentence) &&
      was.margin === margin;
    if (
      !same ||
      was.assumptions?.length !== assumptions?.length ||
      was.shown_value !== shown_value ||
      was.shown_limit !== shown_limit
    )
      return false;
  }
  return true;
}

/** The findings by circuit and check, for looking up. */
export function findingsByCell(findings: Finding[]): Map<string, Finding> {
  return new Map(
    findings.map((finding) => [cellKey({ check: finding.check, circuit: finding.subject.id }), finding]),
  );
}

export const cellKey = (cell: Cell) => `${cell.circuit} ${cell.check}`;

/** The device as it is written in a row: B32, or 30 for a fuse. */
export function deviceText(circuit: Circuit): string {
  if (!circuit.device || typeof circuit.device === "string") return "auto";
  return `${circuit.device.curve ?? ""}${circuit.device.rating_a}`;
}

/** The protective conductor beside the size, as the standard writes it. */
export function cpcText(
  figures: CircuitFigures | undefined,
  circuit: Circuit,
  rules: RuleSetView,
): string | undefined {
  const area = figures?.cpc_mm2;
  if (!area || !circuit.cable || typeof circuit.cable === "string") return undefined;
  return sizeLabel(rules, circuit.cable.type, area);
}

/** What the standard calls a size of a kind of cable: 2.5, or 12 where sizes go by gauge. */
export function sizeLabel(rules: RuleSetView, type: string, area_mm2: number): string {
  const kind = rules.cables.find((known) => known.id === type);
  return kind?.sizes.find((size) => size.area_mm2 === area_mm2)?.label ?? String(area_mm2);
}

/** The cable's size as it is written in a row. */
export function cableText(circuit: Circuit, rules: RuleSetView): string {
  if (!circuit.cable || typeof circuit.cable === "string") return "auto";
  return sizeLabel(rules, circuit.cable.type, circuit.cable.area_mm2);
}

/** The lines as they are written in a row: L2, L1–3, or nothing while none is chosen. */
export function linesText(circuit: Circuit): string {
  const lines = circuit.lines ?? [];
  if (lines.length < 2) return lines[0] ?? "";
  return lines.length === 3 ? "L1–3" : lines.join("+").replaceAll("+L", "+");
}

/** Length of the run; empty while any of it is not known. */
export function lengthText(circuit: Circuit): string {
  const lengths = circuit.run.map((section) => section.length_m);
  if (lengths.some((length) => length === null || length === undefined)) return "";
  return String(Number(lengths.reduce((sum: number, length) => sum + (length ?? 0), 0).toFixed(3)));
}

/** The methods of the run, one after the other, by their short names; one that all sections have, once. */
export function methodText(circuit: Circuit, rules: RuleSetView): string {
  const short = (id: string) => rules.methods.find((method) => method.id === id)?.short ?? id;
  const methods = circuit.run.map((section) => short(section.method));
  return [...new Set(methods)].length === 1 ? (methods[0] ?? "") : methods.join(" ");
}

export function editText(circuit: Circuit, edit: Edit, rules: RuleSetView): string {
  const texts = {
    device: deviceText,
    lines: linesText,
    cable: cableText,
    length: lengthText,
    method: methodText,
  };
  return texts[edit](circuit, rules);
}

/** What the design decided, and why the runners-up lost. */
export function decided(made: Pick<Decision, "sentence" | "runners">): string {
  const lost = made.runners.map((runner) => `${runner.what} ${say(runner.reason)}`).join("; ");
  return lost ? t("web.verdict.decided", { sentence: say(made.sentence), list: lost }) : say(made.sentence);
}

/** The sign of what wants looking at. */
export const VERDICT_MARKS: Partial<Record<Verdict, string>> = {
  fail: "▲",
  missing: "?",
  advice: "◇",
  tight: "‖",
};

/** A verdict as people say it. */
export const verdictWord = (verdict: Verdict) =>
  say({ id: `core.verdict.${verdict}`, params: {}, standard: "" });

/** A cell as a sentence, for those who hear it. */
export function accessibleText(circuit: Circuit, title: string, finding: Finding | undefined): string {
  if (!finding) return t("web.verdict.spoken_pending", { circuit: circuit.name, check: title });
  const figure = finding.shown_value
    ? t("web.verdict.spoken_figure", {
        value: finding.shown_value,
        limit: finding.shown_limit,
        unit: finding.unit,
      })
    : "";
  return t("web.verdict.spoken", {
    circuit: circuit.name,
    title,
    verdict: verdictWord(finding.verdict),
    figure,
    sentence: restsOnAssumed(finding)
      ? t("web.verdict.spoken_assumed", { sentence: say(finding.sentence) })
      : say(finding.sentence),
  });
}

/** Whether a result rests on a value that no one has confirmed yet. */
export const restsOnAssumed = (finding: Finding): boolean =>
  (finding.assumptions ?? []).some((assumption) => assumption.to_confirm);

/** The verdict that a finding is drawn with: advice that was accepted needs no one's eye. */
export const shownVerdict = (finding: Finding | undefined): Verdict =>
  finding?.accepted ? "pass" : (finding?.verdict ?? "not-applicable");

/** How many causes there are of each verdict. */
export function countCauses(causes: CauseGroup[]): Partial<Record<Verdict, number>> {
  const counts: Partial<Record<Verdict, number>> = {};
  for (const { verdict } of causes) counts[verdict] = (counts[verdict] ?? 0) + 1;
  return counts;
}

/** The view that a cause without circuits is shown in; undefined for one of a circuit, which the grid shows. */
export function viewOfCause({ cause, circuits }: CauseGroup, rules: RuleSetView): string | undefined {
  if (circuits.length) return undefined;
  const checks = [...rules.supply_checks, ...rules.board_checks];
  const view = checks.find((check) => check.id === cause.check)?.view;
  const part = PART_OF[cause.check];
  return part ? `${view}?part=${part}` : view;
}

/** Checks that a view shows in a part of its own. */
const PART_OF: Record<string, string> = { surge: "surge", "voltage-relay": "relay" };

/** Verdicts that say something, the worst first. */
export const WORST_FIRST: Verdict[] = ["fail", "missing", "advice", "tight", "pass"];

/** The worst verdict of several, for a mark on a device. */
export function worstVerdict(findings: (Finding | undefined)[]): Verdict {
  return (
    WORST_FIRST.find((verdict) => findings.some((finding) => shownVerdict(finding) === verdict)) ??
    "not-applicable"
  );
}
