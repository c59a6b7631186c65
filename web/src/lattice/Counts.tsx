import type { Verdict } from "../api/client";

const SHOWN: { verdict: Verdict; mark: string; word: string; look: string }[] = [
  { verdict: "fail", mark: "▲", word: "over the limit", look: "text-fail" },
  { verdict: "missing", mark: "?", word: "lacking input", look: "text-missing" },
  { verdict: "advice", mark: "◇", word: "with advice", look: "text-advice" },
  { verdict: "tight", mark: "‖", word: "tight", look: "text-tight" },
];

/** How the whole job stands, in a line. */
export function Counts({ counts }: { counts: Record<string, number> | undefined }) {
  if (!counts) return <p className="py-1.5 text-[13px] text-soft">Working it out …</p>;
  const trouble = SHOWN.filter(({ verdict }) => counts[verdict]);
  return (
    <output className="flex flex-wrap gap-x-3 py-1.5 text-[13px]" data-testid="counts">
      {trouble.length === 0 && <span>{counts.pass ? "Everything is in order" : "Nothing to check yet"}</span>}
      {trouble.map(({ verdict, mark, word, look }) => (
        <span key={verdict} className={look}>
          <span aria-hidden="true">{mark} </span>
          <b className="figure">{counts[verdict]}</b> {word}
        </span>
      ))}
    </output>
  );
}
