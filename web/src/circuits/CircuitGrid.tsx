import {
  type ClipboardEvent,
  type KeyboardEvent,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import type { Assessment, Remedy } from "../api/client";
import { ImportTable } from "../import/ImportTable";
import { isTable, pastedRows } from "../import/takeInModel";
import { useJob } from "../job/JobContext";
import { circuitById, withCircuits, withoutCircuit, withRemedy } from "../job/jobModel";
import { BoardRows } from "./BoardRows";
import { BoardStrip } from "./BoardStrip";
import { CheckDetails, useRemedies } from "./CheckDetails";
import { CheckGroupSwitch } from "./CheckGroupSwitch";
import { CircuitPathPlot } from "./CircuitPathPlot";
import { CircuitRow, type RowActions } from "./CircuitRow";
import { Counts } from "./Counts";
import { checksOf, type Face, faceOf, otherFace } from "./checkGroups";
import { CircuitDialog } from "./circuit/CircuitDialog";
import { beginsTyping, moved, type Spot } from "./gridKeys";
import {
  cellKey,
  cpcText,
  type Edit,
  editsOf,
  editText,
  findingsByCell,
  findingsByRow,
  type RowFindings,
  rowsOf,
} from "./gridModel";
import { Heads } from "./Heads";
import { MaxLengths } from "./MaxLengths";
import { pasted } from "./pasting";
import { QuickEntry } from "./QuickEntry";
import { stepped, typed } from "./typing";
import { fromBox, useCursor } from "./useCursor";
import { WhatIfPanel } from "./WhatIfPanel";

const WIDTH: Record<Edit, string> = {
  device: "48px",
  lines: "46px",
  cable: "72px",
  length: "44px",
  method: "62px",
};

/** Circuits by checks: the job at a glance, edited in place by keyboard. */
export function CircuitGrid() {
  const job = useJob();
  const { document, assessment, rules, edit, notify, focus } = job;
  const phases = document.supply.phases;
  const [face, setFace] = useState<Face>("sizing");
  const checks = useMemo(() => checksOf(rules, face), [rules, face]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the columns hang on the face and the number of lines alone
  const edits = useMemo(() => editsOf(document, face), [phases, face]);
  const groups = useMemo(() => rowsOf(document), [document]);
  const rows = useMemo(() => groups.flatMap((group) => group.rows), [groups]);
  const found = useMemo(() => findingsByCell(assessment?.findings ?? []), [assessment]);
  const byRow = useByRow(assessment);
  const figures = useMemo(
    () => new Map(assessment?.circuits.map((line) => [line.circuit, line])),
    [assessment],
  );
  const { spot, put, grid } = useCursor(rows.length);
  const [editing, setEditing] = useState<string>();
  const [lit, setLit] = useState<string>();
  const [added, setAdded] = useState<string>();
  const [opened, setOpened] = useState<string>();
  const [table, setTable] = useState<string>();
  const chosen = rows[spot.row]?.circuit;
  const columns = 1 + edits.length + checks.length;
  // Beside a figure that is typed over stands the check it decides most.
  const check =
    (
      checks[spot.column - 1 - edits.length] ??
      checks[face === "sizing" ? DECIDES[edits[spot.column - 1] ?? "device"] : 0]
    )?.id ?? "";
  const finding = chosen && found.get(cellKey({ check, circuit: chosen.id }));
  const remedies = useRemedies(finding);

  // The cursor goes to a circuit that was typed in as soon as its row is there.
  useEffect(() => {
    const row = added ? rows.findIndex((known) => known.circuit.id === added) : -1;
    if (row < 0) return;
    put({ row, column: 2 });
    setAdded(undefined);
  }, [added, rows, put]);

  const circuitId = chosen?.id;
  useEffect(() => focus(circuitId ? { check, circuit: circuitId } : undefined), [focus, check, circuitId]);

  const take = useCallback(
    (remedy: Remedy) => {
      edit(withRemedy(document, remedy));
      put(spot);
    },
    [document, edit, put, spot],
  );

  const change = useCallback(
    (at: number, text: string, column: number) => {
      const circuit = rows[at]?.circuit;
      const which = edits[column - 1];
      if (!circuit || !which || text.trim() === editText(circuit, which, rules)) return true;
      if (text.trim() === "" && which !== "length" && which !== "lines") return true;
      const done = typed(circuit, which, text, rules);
      if ("wrong" in done) {
        notify(done.wrong);
        return false;
      }
      edit(withCircuits(document, [done.circuit]));
      return true;
    },
    [document, edit, edits, rows, rules, notify],
  );

  /** To the cell of a check and a circuit, on whichever face it stands. */
  const goTo = (wanted: string, circuit: string) => {
    const to = faceOf(rules, wanted);
    const row = rows.findIndex((known) => known.circuit.id === circuit);
    const at = checksOf(rules, to).findIndex((one) => one.id === wanted);
    setFace(to);
    if (row >= 0) put({ row, column: 1 + editsOf(document, to).length + Math.max(0, at) });
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
        latest.current.put(at, false);
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

  const onPaste = (event: ClipboardEvent) => {
    if (fromBox(event)) return;
    const text = event.clipboardData.getData("text/plain");
    if (!text.trim()) return;
    event.preventDefault();
    if (spot.column === 0 || spot.column > edits.length) {
      if (isTable(text)) setTable(text);
      else notify("Put the cursor into an editable column to paste one figure.");
      return;
    }
    const circuits = rows.slice(spot.row).map((row) => row.circuit);
    const done = pasted(circuits, edits.slice(spot.column - 1), pastedRows(text), rules);
    if ("wrong" in done) return notify(`Nothing was pasted. ${done.wrong}`);
    edit(withCircuits(document, done.circuits));
    notify(`${done.cells} cells pasted. One undo takes them back.`);
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (fromBox(event) || event.altKey || !chosen) return;
    if (takeKey(event)) event.preventDefault();
  };

  /** What a key does on the cell the cursor is in; false where it means nothing here. */
  const takeKey = (event: KeyboardEvent): boolean => {
    const { key } = event;
    if (!chosen) return false;
    const to = moved(spot, key, rows.length, columns, event.ctrlKey);
    if (to) {
      actions.put(to);
      return true;
    }
    if (event.ctrlKey || event.metaKey) return false;
    const which = edits[spot.column - 1];
    if (key === "p" && !which) {
      turn(otherFace(face));
      return true;
    }
    if ((key === "+" || key === "-") && which) {
      edit(withCircuits(document, [stepped(chosen, which, key === "+", rules)]));
      return true;
    }
    if (which && key === "Enter") return begin(spot, editText(chosen, which, rules));
    if (which && (key === "Delete" || key === "Backspace")) return begin(spot, "");
    if (which && beginsTyping(key) && key !== "e") return begin(spot, key);
    if (key === "e" || (key === "Enter" && spot.column === 0)) {
      setOpened(chosen.id);
      return true;
    }
    if (key === "Delete" && spot.column === 0) {
      remove(chosen.id);
      return true;
    }
    const remedy = /^[1-9]$/.test(key) ? remedies.data?.[Number(key) - 1] : undefined;
    if (remedy && spot.column > edits.length) {
      take(remedy);
      return true;
    }
    return false;
  };

  /** Turns the lattice over; the cursor stays in its row, on the first check of the other side. */
  const turn = (to: Face) => {
    setEditing(undefined);
    setFace(to);
    put({ row: spot.row, column: 1 + editsOf(document, to).length });
  };

  const begin = (at: Spot, text: string) => {
    actions.begin(at, text);
    return true;
  };

  const remove = (id: string) => {
    const without = withoutCircuit(document, id);
    if (typeof without === "string") return notify(without);
    edit(without);
    notify(`${circuitById(document, id)?.name ?? id} taken out. Undo brings it back.`);
  };

  useEffect(() => {
    const slash = (event: globalThis.KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
      if (event.key !== "/" || typing) return;
      event.preventDefault();
      window.document.getElementById("quick-entry")?.focus();
    };
    window.addEventListener("keydown", slash);
    return () => window.removeEventListener("keydown", slash);
  }, []);

  const template = `minmax(132px, 2.2fr) ${edits.map((each) => WIDTH[each]).join(" ")} repeat(${checks.length}, minmax(74px, 1fr))`;
  return (
    <main className="flex min-h-0 flex-1 max-lg:flex-col max-lg:overflow-auto">
      <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-1.5 px-4 py-2">
        <QuickEntry boards={document.boards ?? []} onAdded={setAdded} onTable={setTable}>
          <Counts assessment={assessment} onCircuit={goTo} />
          <CheckGroupSwitch face={face} assessment={assessment} onFace={turn} />
        </QuickEntry>
        <CircuitPathPlot figures={chosen && figures.get(chosen.id)} />
        <div className="min-h-0 flex-1 overflow-auto" data-testid="lattice-scroll">
          <div
            ref={grid}
            role="grid"
            aria-label="Circuits by checks"
            aria-rowcount={rows.length}
            className="grid min-w-[820px]"
            style={{ gridTemplateColumns: template, gridAutoRows: "minmax(26px, auto)" }}
            onKeyDown={onKeyDown}
            onPaste={onPaste}
          >
            <Heads column={spot.column} edits={edits} checks={checks} />
            {groups.map(({ board, rows: own }) => (
              <BoardRows
                key={board.id}
                board={board}
                used={own.length}
                figures={assessment?.boards?.find((line) => line.board === board.id)}
                findings={assessment?.findings.filter(
                  (one) => one.subject.kind === "board" && one.subject.id === board.id,
                )}
              >
                {own.map((row) => {
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
                      face={face}
                      findings={byRow.get(row.circuit.id)}
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
          {!rows.length && <Empty />}
        </div>
        <div className="flex shrink-0 gap-6 overflow-x-auto border-t border-line pb-1 pt-1.5 max-md:hidden">
          {groups.map(({ board, rows: own }) => (
            <BoardStrip
              key={board.id}
              board={board}
              rows={own}
              checks={checks.map((known) => known.id)}
              found={found}
              chosen={chosen?.id}
              lit={lit}
              onChoose={(id) =>
                put({ row: rows.findIndex((row) => row.circuit.id === id), column: spot.column })
              }
              onLight={setLit}
            />
          ))}
        </div>
      </div>
      <aside
        aria-label="Working"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a long sum is scrolled by keyboard
        tabIndex={0}
        className="flex w-[318px] shrink-0 flex-col overflow-auto border-l border-line bg-sheet px-4 py-3 max-lg:w-full max-lg:border-l-0 max-lg:border-t"
      >
        <div className="flex-1">
          {chosen && (
            <CheckDetails circuit={chosen} check={check} finding={finding} onTake={take}>
              {LENGTH_MATTERS.has(edits[spot.column - 1]) && <MaxLengths circuit={chosen} />}
              {face === "sizing" && <WhatIfPanel circuit={chosen} />}
            </CheckDetails>
          )}
        </div>
        <p className="mt-4 text-[11.5px] text-soft">{rules.cautions[1]}</p>
      </aside>
      {table && <ImportTable of="circuits" source={table} onClose={() => setTable(undefined)} />}
      {opened && (
        <CircuitDialog id={opened} onClose={() => setOpened(undefined)} onRemove={() => remove(opened)} />
      )}
    </main>
  );
}

/** Beside these columns stands how far each size goes. */
const LENGTH_MATTERS = new Set<Edit | undefined>(["cable", "length"]);

/** Findings a row, handed out again for every row that looks as it did before. */
function useByRow(assessment: Assessment | undefined) {
  const before = useRef<ReadonlyMap<string, RowFindings>>(new Map());
  return useMemo(() => {
    before.current = findingsByRow(assessment?.findings ?? [], before.current);
    return before.current;
  }, [assessment]);
}

/** The check to show beside an editable column: load for the device, cable for the size, drop for length, cable for method. */
const DECIDES: Record<Edit, number> = { device: 0, lines: 2, cable: 1, length: 2, method: 1 };

function Empty() {
  return (
    <div className="mx-auto max-w-md p-8 text-center">
      <p className="mb-2 font-semibold">No circuits yet.</p>
      <p className="text-soft">
        Type one above, as <span className="figure">shower 9.5kW 17m</span>, and press Enter. Device and cable
        are chosen for you and can be typed over.
      </p>
    </div>
  );
}
