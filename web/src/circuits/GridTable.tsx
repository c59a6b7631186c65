import type { ClipboardEvent, KeyboardEvent } from "react";
import type { CircuitFigures } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { BoardRows } from "./BoardRows";
import { CircuitRow } from "./CircuitRow";
import { cpcText, type Edit } from "./gridModel";
import { Heads } from "./Heads";
import type { Grid } from "./useGrid";

const WIDTH: Record<Edit, string> = {
  device: "48px",
  lines: "46px",
  cable: "72px",
  length: "56px",
  method: "56px",
};

type Props = {
  grid: Grid;
  figures: ReadonlyMap<string, CircuitFigures>;
  onKeyDown: (event: KeyboardEvent) => void;
  onPaste: (event: ClipboardEvent) => void;
};

/** The circuits of every board, a row each, by the checks of a group. */
export function GridTable({ grid, figures, onKeyDown, onPaste }: Props) {
  const { assessment, rules } = useJob();
  const { boards, rows, edits, checks, spot, editing, lit, actions } = grid;
  const template = `minmax(132px, 2.2fr) ${edits.map((each) => WIDTH[each]).join(" ")} repeat(${checks.length}, minmax(74px, 1fr))`;
  return (
    <div
      ref={grid.grid}
      role="grid"
      aria-label={t("web.circuits.grid")}
      aria-rowcount={rows.length}
      className="grid min-w-[820px]"
      style={{ gridTemplateColumns: template, gridAutoRows: "minmax(26px, auto)" }}
      onKeyDown={onKeyDown}
      onPaste={onPaste}
    >
      <Heads column={spot.column} edits={edits} checks={checks} />
      {boards.map(({ board, rows: boardRows }) => (
        <BoardRows
          key={board.id}
          board={board}
          used={boardRows.length}
          figures={assessment?.boards?.find((line) => line.board === board.id)}
          findings={assessment?.findings.filter(
            ({ subject }) => subject.kind === "board" && subject.id === board.id,
          )}
        >
          {boardRows.map((row) => {
            const at = rows.indexOf(row);
            const here = at === spot.row;
            return (
              <CircuitRow
                key={row.circuit.id}
                circuit={row.circuit}
                way={row.way}
                at={at}
                rules={rules}
                edits={edits}
                group={grid.group}
                findings={grid.byRow.get(row.circuit.id)}
                cpc={cpcText(figures.get(row.circuit.id), row.circuit, rules)}
                column={here ? spot.column : undefined}
                crossedColumn={spot.column}
                editing={here ? editing : undefined}
                lit={lit === row.circuit.id}
                actions={actions}
              />
            );
          })}
        </BoardRows>
      ))}
    </div>
  );
}
