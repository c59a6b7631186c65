import { useState } from "react";
import type { Board, Finding } from "../api/client";
import { Answer, FIGURE, VERDICT_MARKS } from "../circuits";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";

const TONE: Record<Finding["verdict"], string> = {
  pass: "text-soft",
  tight: "text-tight",
  fail: "text-fail",
  advice: "text-advice",
  missing: "text-missing",
  "not-applicable": "text-soft",
};

/** What the checks of a board's build say; each opens its sum. While a device is held they answer for where it is held. */
export function BuildFindings({
  board,
  findings,
  moving,
}: {
  board: Board;
  findings: Finding[];
  moving: boolean;
}) {
  const { rules, assessment, focus } = useJob();
  const [openCheck, setOpenCheck] = useState<string>();
  const toggle = (check: string) => {
    const next = openCheck === check ? undefined : check;
    setOpenCheck(next);
    focus(next ? { check: next, circuit: board.id } : undefined);
  };
  return (
    <section
      aria-label={t("web.board.checks.section")}
      aria-live="polite"
      className="rounded-xl border border-line bg-sheet p-3"
      data-testid="build-findings"
    >
      <h2 className="mb-1 text-[13px] font-semibold">
        {moving ? t("web.board.checks.title_moving") : t("web.board.checks.section")}
      </h2>
      <ul className="flex flex-col">
        {findings.map((finding) => {
          const check = rules.board_checks.find((known) => known.id === finding.check);
          const full =
            assessment?.findings.find(
              (known) => known.check === finding.check && known.subject.id === board.id,
            ) ?? finding;
          const isOpen = openCheck === finding.check;
          return (
            <li
              key={finding.check}
              className="border-t border-line first:border-t-0"
              data-check={finding.check}
            >
              <button
                type="button"
                aria-expanded={isOpen}
                className="grid w-full grid-cols-[16px_92px_1fr] gap-1 py-1 text-left text-[12.5px]"
                onClick={() => toggle(finding.check)}
              >
                <span className={FIGURE[finding.verdict]} data-verdict={finding.verdict}>
                  {VERDICT_MARKS[finding.verdict] ?? (finding.verdict === "pass" ? "✓" : "–")}
                </span>
                <span className="font-medium">{check?.title}</span>
                <span className={TONE[finding.verdict]}>{say(finding.sentence)}</span>
              </button>
              {isOpen && (
                <div className="pb-2 pl-5">
                  <p className="mb-1 text-[12px] text-soft">{check?.question}</p>
                  <Answer finding={full} />
                </div>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
