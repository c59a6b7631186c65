import { useState } from "react";
import type { Finding } from "../api/client";
import { Answer, FIGURE, VERDICT_MARKS } from "../circuits";
import { useJob } from "../job/JobContext";
import { cx } from "../ui/cx";

const keyOf = (one: Finding) => `${one.check} ${one.subject.id}`;

/** What is not in order of the supply's and the boards' protection, each in a line that opens into its sum and its fixes. */
export function BoardFindings() {
  const { assessment, document, rules, focus } = useJob();
  const [open, setOpen] = useState<string>();
  const titles = new Map([...rules.supply_checks, ...rules.board_checks].map((one) => [one.id, one.title]));
  const ofBuild = new Set(rules.board_checks.filter((one) => one.category === "build").map((one) => one.id));
  const boards = new Map((document.boards ?? []).map((board) => [board.id, board.name]));
  const held = (assessment?.findings ?? []).filter(
    (one) =>
      VERDICT_MARKS[one.verdict] &&
      (one.check === "surge" || (one.subject.kind === "board" && !ofBuild.has(one.check))),
  );
  if (!held.length) return null;
  const shown = held.find((one) => keyOf(one) === open);
  const toggle = (one: Finding) => {
    const next = keyOf(one) === open ? undefined : keyOf(one);
    setOpen(next);
    focus(next ? { check: one.check, circuit: one.subject.id } : undefined);
  };
  return (
    <div className="min-w-0 flex-1">
      <ul className="flex min-w-0 flex-wrap gap-x-4 text-[12.5px]" data-testid="board-findings">
        {held.map((one) => (
          <li key={keyOf(one)} className="max-w-md min-w-0">
            <button
              type="button"
              aria-expanded={keyOf(one) === open}
              className={cx(FIGURE[one.verdict], "max-w-full truncate underline decoration-dotted")}
              title={one.sentence}
              data-check={one.check}
              onClick={() => toggle(one)}
            >
              {VERDICT_MARKS[one.verdict]} {titles.get(one.check)}
              {boards.has(one.subject.id) && `, ${boards.get(one.subject.id)}`}: {one.sentence}
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
