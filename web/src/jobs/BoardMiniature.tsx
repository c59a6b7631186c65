import type { JobSummary, Miniature, Verdict } from "../api/client";
import { t } from "../messages/text";

const MODULE = 5;
const ROW = 15;
const GAP = 4;

const LOOK: Partial<Record<Verdict, string>> = {
  fail: "fill-fail",
  missing: "fill-sheet stroke-missing",
  advice: "fill-sheet stroke-advice",
  tight: "fill-tight",
};

/** Boards in miniature, as they are laid out, each circuit's device by its worst result. */
export function BoardMiniatures({ summary }: { summary: JobSummary }) {
  return (
    <span className="flex h-full flex-col justify-center gap-1.5" aria-hidden="true">
      {summary.boards.slice(0, 2).map((board) => (
        <OneBoard key={board.board} board={board} circuits={summary.circuits} />
      ))}
    </span>
  );
}

function OneBoard({ board, circuits }: { board: Miniature; circuits: JobSummary["circuits"] }) {
  const [wide, high] = [board.modules * MODULE + 6, board.rows * (ROW + GAP) + 4];
  return (
    <svg viewBox={`0 0 ${wide} ${high}`} className="block max-h-20 w-full">
      <title>{t("web.jobs.miniature", { board: board.name })}</title>
      <rect x="0.5" y="0.5" width={wide - 1} height={high - 1} rx="2.5" className="fill-ground stroke-line" />
      {board.boxes.map((box) => (
        <rect
          key={`${box.row} ${box.start}`}
          x={3 + box.start * MODULE + 0.4}
          y={3 + (box.row - 1) * (ROW + GAP)}
          width={Math.max(1, box.wide * MODULE - 0.8)}
          height={ROW}
          rx="0.8"
          strokeWidth="0.8"
          className={box.circuit ? (LOOK[circuits[box.circuit] ?? "missing"] ?? "fill-pass") : "fill-ink"}
        />
      ))}
    </svg>
  );
}
