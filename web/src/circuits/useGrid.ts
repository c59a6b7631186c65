import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Assessment, Remedy } from "../api/client";
import { useJob } from "../job/JobContext";
import { circuitById, withCircuits, withoutCircuit, withRemedy } from "../job/jobModel";
import { t } from "../messages/text";
import type { RowActions } from "./CircuitRow";
import { type CheckGroup, checkBeside, checksOf, groupOf } from "./checkGroups";
import { editsOf, editText, findingsByCell, findingsByRow, type RowFindings, rowsOf } from "./gridModel";
import { isPlanned, typed } from "./typing";
import { useCursor } from "./useCursor";

/** What the circuit grid shows, where its cursor is, and what can be done to it. */
export function useGrid() {
  const { document, assessment, rules, edit, notify } = useJob();
  const phases = document.supply.phases;
  const [group, setGroup] = useState<CheckGroup>("sizing");
  const checks = useMemo(() => checksOf(rules, group), [rules, group]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the columns depend on the group and the number of phases alone
  const edits = useMemo(() => editsOf(document, group), [phases, group]);
  const boards = useMemo(() => rowsOf(document), [document]);
  const rows = useMemo(() => boards.flatMap((board) => board.rows), [boards]);
  const byCell = useMemo(() => findingsByCell(assessment?.findings ?? []), [assessment]);
  const byRow = useByRow(assessment);
  const { spot, put, grid } = useCursor(rows.length);
  const [editing, setEditing] = useState<string>();
  const [lit, setLit] = useState<string>();
  const [opened, setOpened] = useState<string>();
  const column = spot.column - 1;
  const check = checks[column - edits.length] ?? checkBeside(checks, edits[column]);

  /** What a cell is typed over with; false where that is not understood. */
  const change = (at: number, text: string, to: number) => {
    const circuit = rows[at]?.circuit;
    const which = edits[to - 1];
    if (!circuit || !which || text.trim() === editText(circuit, which, rules)) return;
    if (text.trim() === "" && which !== "length" && which !== "lines") return;
    const result = typed(circuit, which, text, rules, isPlanned(document, circuit));
    if ("error" in result) notify(result.error);
    else edit(withCircuits(document, [result.circuit]));
  };

  const latest = useRef({ change, put });
  latest.current = { change, put };
  const actions = useMemo<RowActions>(
    () => ({
      put: (at) => {
        setEditing(undefined);
        latest.current.put(at);
      },
      begin: (at, text) => {
        latest.current.put(at, "nothing");
        setEditing(text);
      },
      commit: (at, text, move) => {
        latest.current.change(at.row, text, at.column);
        setEditing(undefined);
        latest.current.put(move === "right" ? { ...at, column: at.column + 1 } : at);
      },
      cancel: (at) => {
        setEditing(undefined);
        latest.current.put(at);
      },
      open: setOpened,
      light: setLit,
    }),
    [],
  );

  const take = useCallback(
    (remedy: Remedy) => {
      edit(withRemedy(document, remedy));
      put(spot);
    },
    [document, edit, put, spot],
  );

  /** To the cell of a check and a circuit, in whichever group it is. */
  const goTo = (wanted: string, circuit: string) => {
    const to = groupOf(rules, wanted);
    const row = rows.findIndex((known) => known.circuit.id === circuit);
    const at = checksOf(rules, to).findIndex((known) => known.id === wanted);
    setGroup(to);
    if (row >= 0) put({ row, column: 1 + editsOf(document, to).length + Math.max(0, at) });
  };

  /** Shows the other group of checks; the cursor stays in its row, on the first of them. */
  const turn = (to: CheckGroup) => {
    setEditing(undefined);
    setGroup(to);
    put({ row: spot.row, column: 1 + editsOf(document, to).length });
  };

  const remove = (id: string) => {
    const without = withoutCircuit(document, id);
    if (typeof without === "string") return notify(without);
    edit(without);
    notify(t("web.circuits.removed", { circuit: circuitById(document, id)?.name ?? id }));
  };

  const chosen = rows[spot.row]?.circuit;
  const cell = check && chosen && { check: check.id, circuit: chosen.id };
  return {
    ...{ group, checks, edits, boards, rows, byCell, byRow, chosen, cell },
    ...{ spot, put, grid, editing, lit, setLit, opened, setOpened },
    ...{ actions, take, goTo, turn, remove },
  };
}

export type Grid = ReturnType<typeof useGrid>;

/** Findings a row, handed out again for every row that looks as it did before. */
function useByRow(assessment: Assessment | undefined) {
  const before = useRef<ReadonlyMap<string, RowFindings>>(new Map());
  return useMemo(() => {
    before.current = findingsByRow(assessment?.findings ?? [], before.current);
    return before.current;
  }, [assessment]);
}

/** The cursor goes to a circuit that was typed in as soon as its row is there. */
export function useCursorOnAdded({ rows, put }: Pick<Grid, "rows" | "put">) {
  const [added, setAdded] = useState<string>();
  useEffect(() => {
    const row = added ? rows.findIndex((known) => known.circuit.id === added) : -1;
    if (row < 0) return;
    // Who types the next line goes on typing.
    const typing = window.document.activeElement?.id === "quick-entry";
    put({ row, column: 2 }, typing ? "scroll" : "focus");
    setAdded(undefined);
  }, [added, rows, put]);
  return setAdded;
}
