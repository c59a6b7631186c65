import { Link } from "react-router";
import type { Assessment, Finding, Verdict } from "../api/client";
import { countVerdicts, VERDICT_MARKS } from "./latticeModel";

const SHOWN: { verdict: Verdict; word: string; look: string }[] = [
  { verdict: "fail", word: "over the limit", look: "text-fail" },
  { verdict: "missing", word: "lacking input", look: "text-missing" },
  { verdict: "advice", word: "with advice", look: "text-advice" },
  { verdict: "tight", word: "tight", look: "text-tight" },
];

/** How the whole job stands, in a line. */
export function Counts({ assessment }: { assessment: Assessment | undefined }) {
  if (!assessment) return <p className="text-[13px] text-soft">Working it out …</p>;
  const counts = countVerdicts(assessment.findings);
  const supply = assessment.findings.filter((found) => found.subject.kind === "supply");
  const trouble = SHOWN.filter(({ verdict }) => counts[verdict]);
  return (
    <output className="flex shrink-0 flex-wrap gap-x-3 text-[13px]" data-testid="counts">
      {trouble.length === 0 && <span>{counts.pass ? "Everything is in order" : "Nothing to check yet"}</span>}
      {trouble.map(({ verdict, word, look }) => (
        <span key={verdict} className={look}>
          <span aria-hidden="true">{VERDICT_MARKS[verdict]} </span>
          <b className="figure">{counts[verdict]}</b> {word}
        </span>
      ))}
      {supply.map((finding) => (
        <SupplyMark key={finding.check} finding={finding} />
      ))}
    </output>
  );
}

/** A finding about the supply that is not in order, with the way to its sum. */
function SupplyMark({ finding }: { finding: Finding }) {
  const shown = SHOWN.find(({ verdict }) => verdict === finding.verdict);
  if (!shown) return null;
  const figure = finding.shown_value
    ? `${finding.shown_value} of ${finding.shown_limit} ${finding.unit}`
    : "?";
  return (
    <Link
      to={finding.check === "surge" ? "../protection" : "../intake"}
      className={`${shown.look} underline decoration-dotted`}
      title={finding.sentence}
    >
      <span aria-hidden="true">{VERDICT_MARKS[shown.verdict]} </span>
      {finding.check} <span className="figure">{figure}</span>
    </Link>
  );
}
