import { useState } from "react";
import { useLocation } from "react-router";
import type { Finding } from "../api/client";
import { Answer, FIGURE, shownVerdict, VERDICT_MARKS } from "../circuits";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { cx } from "../ui/cx";

const keyOf = (finding: Finding) => `${finding.check} ${finding.subject.id}`;

/** What is not in order of the supply's and the boards' protection, each in a line that opens into its sum and its fixes. */
export function BoardFindings() {
  const { assessment, document, rules, focus } = useJob();
  const { state } = useLocation();
  const [open, setOpen] = useState<string | undefined>(state?.finding);
  const titles = new Map(
    [...rules.supply_checks, ...rules.board_checks].map((check) => [check.id, check.title]),
  );
  const ofBuild = new Set(
    rules.board_checks
      .filter((boardCheck) => boardCheck.category === "build")
      .map((boardCheck) => boardCheck.id),
  );
  const boards = new Map((document.boards ?? []).map((board) => [board.id, board.name]));
  const findings = (assessment?.findings ?? []).filter(
    (finding) =>
      VERDICT_MARKS[shownVerdict(finding)] &&
      (finding.check === "surge" || (finding.subject.kind === "board" && !ofBuild.has(finding.check))),
  );
  if (!findings.length) return null;
  const shown = findings.find((finding) => keyOf(finding) === open);
  const toggle = (finding: Finding) => {
    const next = keyOf(finding) === open ? undefined : keyOf(finding);
    setOpen(next);
    focus(next ? { check: finding.check, circuit: finding.subject.id } : undefined);
  };
  return (
    <div className="min-w-0 flex-1">
      <ul className="flex min-w-0 flex-wrap gap-x-4 text-[12.5px]" data-testid="board-findings">
        {findings.map((finding) => (
          <li key={keyOf(finding)} className="max-w-md min-w-0">
            <button
              type="button"
              aria-expanded={keyOf(finding) === open}
              className={cx(FIGURE[finding.verdict], "max-w-full truncate underline decoration-dotted")}
              title={say(finding.sentence)}
              data-check={finding.check}
              onClick={() => toggle(finding)}
            >
              {VERDICT_MARKS[finding.verdict]} {titles.get(finding.check)}
              {boards.has(finding.subject.id) && `, ${boards.get(finding.subject.id)}`}:{" "}
              {say(finding.sentence)}
            </button>
          </li>
        ))}
      </ul>
      {shown && (
        <section
          aria-label={titles.get(shown.check)}
          className="mt-2 max-w-2xl rounded-xl border border-line bg-sheet p-3"
        >
          <Answer finding={shown} />
        </section>
      )}
    </div>
  );
}
