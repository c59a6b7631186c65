import { useEffect, useMemo, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { ImportTable } from "../import/ImportTable";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { BoardStrip } from "./BoardStrip";
import { CheckDetails, useRemedies } from "./CheckDetails";
import { CheckGroupSwitch } from "./CheckGroupSwitch";
import { CircuitPathPlot } from "./CircuitPathPlot";
import { CircuitDialog } from "./circuit/CircuitDialog";
import { GridTable } from "./GridTable";
import { cellKey, type Edit } from "./gridModel";
import { Legend } from "./Legend";
import { MaxLengths } from "./MaxLengths";
import { NextSteps } from "./NextSteps";
import { QuickEntry } from "./QuickEntry";
import { useCursorOnAdded, useGrid } from "./useGrid";
import { useGridKeys } from "./useGridKeys";
import { WhatIfPanel } from "./WhatIfPanel";

/** Beside these columns stands how far each size goes. */
const LENGTH_MATTERS = new Set<Edit | undefined>(["cable", "length"]);

/** Circuits by checks: the job at a glance, edited in place by keyboard. */
export function CircuitGrid() {
  const { document, assessment, rules, focus } = useJob();
  const grid = useGrid();
  const { rows, chosen, cell, spot, opened, lit } = grid;
  const [table, setTable] = useTableToImport();
  const setAdded = useCursorOnAdded(grid);
  useStateOfAddress(setAdded, grid.setOpened);
  const figures = useMemo(
    () => new Map(assessment?.circuits.map((line) => [line.circuit, line])),
    [assessment],
  );
  const finding = cell && grid.byCell.get(cellKey(cell));
  const remedies = useRemedies(finding);
  const keys = useGridKeys(grid, remedies.data, setTable);

  const check = cell?.check;
  const circuit = cell?.circuit;
  useEffect(() => focus(check && circuit ? { check, circuit } : undefined), [focus, check, circuit]);

  return (
    <main className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
      <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-1.5 px-4 py-2">
        <QuickEntry boards={document.boards ?? []} onAdded={setAdded} onTable={setTable}>
          <span className="ml-auto flex shrink-0 items-center gap-2">
            <Legend />
            <CheckGroupSwitch group={grid.group} assessment={assessment} onGroup={grid.turn} />
          </span>
        </QuickEntry>
        <CircuitPathPlot figures={chosen && figures.get(chosen.id)} />
        <div className="min-h-0 flex-1 overflow-auto" data-testid="grid-scroll">
          <GridTable grid={grid} figures={figures} {...keys} />
          {!rows.length && <Empty />}
        </div>
        <div className="flex shrink-0 gap-6 overflow-x-auto border-t border-line pb-1 pt-1.5 max-md:hidden">
          {grid.boards.map(({ board, rows: boardRows }) => (
            <BoardStrip
              key={board.id}
              board={board}
              rows={boardRows}
              checks={grid.checks.map((known) => known.id)}
              found={grid.byCell}
              chosen={chosen?.id}
              lit={lit}
              onChoose={(id) =>
                grid.put({ row: rows.findIndex((row) => row.circuit.id === id), column: spot.column })
              }
              onLight={grid.setLit}
            />
          ))}
        </div>
      </div>
      <aside
        aria-label={t("web.circuits.details")}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a long calculation is scrolled by keyboard
        tabIndex={0}
        className="flex w-[318px] shrink-0 flex-col overflow-auto border-l border-line bg-sheet px-4 py-3 max-lg:w-full max-lg:border-l-0 max-lg:border-t"
      >
        <div className="flex flex-1 flex-col gap-3">
          <NextSteps assessment={assessment} onCircuit={grid.goTo} />
          {chosen && check && (
            <CheckDetails circuit={chosen} check={check} finding={finding} onTake={grid.take}>
              {LENGTH_MATTERS.has(grid.edits[spot.column - 1]) && <MaxLengths circuit={chosen} />}
              {grid.group === "sizing" && <WhatIfPanel circuit={chosen} />}
            </CheckDetails>
          )}
        </div>
        <p className="mt-4 text-[11.5px] text-soft">{rules.cautions[1]}</p>
      </aside>
      {table && <ImportTable of="circuits" source={table} onClose={() => setTable(undefined)} />}
      {opened && (
        <CircuitDialog
          id={opened}
          onClose={() => grid.setOpened(undefined)}
          onRemove={() => grid.remove(opened)}
        />
      )}
    </main>
  );
}

/** Where another view leads to: a circuit to put the cursor on or to show whole, or the box to type one into. */
function useStateOfAddress(onCircuit: (circuit: string) => void, onOpen: (circuit: string) => void) {
  const { state, key } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each way in, which the key of the address tells
  useEffect(() => {
    if (state?.circuit) onCircuit(state.circuit);
    if (state?.open) onOpen(state.open);
    if (state?.entry) window.document.getElementById("quick-entry")?.focus();
  }, [key]);
}

/** A table to import: pasted here, or handed on by a new job that begins with one. */
function useTableToImport() {
  const location = useLocation();
  const navigate = useNavigate();
  const [table, setTable] = useState<File | string | undefined>(location.state?.table);
  const set = (next: File | string | undefined) => {
    // A table that was handed on is not imported a second time when the page is loaded again.
    if (location.state) navigate(location.pathname, { replace: true, state: null });
    setTable(next);
  };
  return [table, set] as const;
}

function Empty() {
  return (
    <div className="mx-auto max-w-md p-8 text-center">
      <p className="mb-2 font-semibold">{t("web.circuits.empty_title")}</p>
      <p className="text-soft">
        {t("web.circuits.empty_text", { example: t("web.circuits.empty_example") })}
      </p>
    </div>
  );
}
