import { useJob } from "../job/JobProvider";
import { FIGURE, VERDICT_MARKS } from "../lattice";
import { cx } from "../ui/cx";

const OF_PROTECTION = new Set(["surge", "rcd-loading", "division", "voltage-relay"]);

/** What is not in order of the supply's and the boards' protection, in a line. */
export function BoardFindings() {
  const { assessment, document, rules } = useJob();
  const titles = new Map([...rules.supply_checks, ...rules.board_checks].map((one) => [one.id, one.title]));
  const boards = new Map((document.boards ?? []).map((board) => [board.id, board.name]));
  const held = (assessment?.findings ?? []).filter(
    (one) => OF_PROTECTION.has(one.check) && VERDICT_MARKS[one.verdict],
  );
  if (!held.length) return null;
  return (
    <ul className="flex min-w-0 flex-wrap gap-x-4 text-[12.5px]" data-testid="board-findings">
      {held.map((one) => (
        <li
          key={`${one.check} ${one.subject.id}`}
          className={cx(FIGURE[one.verdict], "max-w-md truncate")}
          title={one.sentence}
        >
          {VERDICT_MARKS[one.verdict]} {titles.get(one.check)}
          {boards.has(one.subject.id) && `, ${boards.get(one.subject.id)}`}: {one.sentence}
        </li>
      ))}
    </ul>
  );
}
