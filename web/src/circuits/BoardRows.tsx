import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Board, BoardFigures, Finding, Job } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { FIGURE } from "./CheckCell";
import { shownVerdict, VERDICT_MARKS } from "./gridModel";

/** A board's rows under its name, what it is fed from, and what its lines carry. */
export function BoardRows({
  board,
  used,
  figures,
  findings,
  children,
}: {
  board: Board;
  used: number;
  figures: BoardFigures | undefined;
  findings: Finding[] | undefined;
  children: ReactNode;
}) {
  const finding = findings?.find((finding) => finding.check === "demand");
  const verdict = shownVerdict(finding);
  const { document, rules } = useJob();
  const titles = new Map(
    rules.board_checks.map((boardCheck) => [boardCheck.id, boardCheck.title.toLowerCase()]),
  );
  const builds = new Set(
    rules.board_checks
      .filter((boardCheck) => boardCheck.category === "build")
      .map((boardCheck) => boardCheck.id),
  );
  return (
    <>
      <div
        role="row"
        className="flex items-center gap-3 border-t border-line bg-line/40 px-2"
        style={{ gridColumn: "1 / -1" }}
      >
        <span role="rowheader" className="text-[12.5px] font-semibold">
          {board.name}
        </span>
        <span role="gridcell" className="text-[12px] text-soft">
          {boardNote(document, board, used)}
        </span>
        <span role="gridcell" className="flex gap-3 text-[12px]">
          {findings
            ?.filter((finding) => finding.check !== "demand" && VERDICT_MARKS[shownVerdict(finding)])
            .map((finding) => (
              <Link
                key={finding.check}
                to={builds.has(finding.check) ? "../board" : "../protection"}
                className={cx(FIGURE[finding.verdict], "underline decoration-dotted")}
                title={say(finding.sentence)}
              >
                {VERDICT_MARKS[finding.verdict]} {titles.get(finding.check) ?? finding.check}
              </Link>
            ))}
        </span>
        <span
          role="gridcell"
          className={cx(
            "figure ml-auto text-[12px]",
            FIGURE[verdict === "pass" ? "not-applicable" : verdict],
          )}
          title={finding && say(finding.sentence)}
          data-testid="board-lines"
        >
          {/* What is in order needs no sign. */}
          {VERDICT_MARKS[verdict] && `${VERDICT_MARKS[verdict]} `}
          {verdict === "missing" && "input"}
          {figures?.lines?.map((line) => (
            <span key={line.line} className="ml-3">
              {(figures.lines?.length ?? 0) > 1 && `${line.line} `}
              {line.shown} A
            </span>
          ))}
        </span>
      </div>
      {children}
    </>
  );
}

function boardNote(document: Job, board: Board, used: number): string {
  const fedBy = board.fed_by;
  const from =
    typeof fedBy === "string"
      ? t("web.circuits.board.fed_origin")
      : t("web.circuits.board.fed_way", {
          n: fedBy.way,
          board: document.boards.find(({ id }) => id === fedBy.board)?.name ?? fedBy.board,
        });
  return t("web.circuits.board.meta", { fed: from, used, total: board.way_count });
}
