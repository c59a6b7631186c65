import { type ClipboardEvent, type KeyboardEvent, useEffect } from "react";
import type { Remedy } from "../api/client";
import { isTable, pastedRows } from "../import/takeInModel";
import { useJob } from "../job/JobContext";
import { withCircuits } from "../job/jobModel";
import { t } from "../messages/text";
import { otherGroup } from "./checkGroups";
import { beginsTyping, moved } from "./gridKeys";
import { editText } from "./gridModel";
import { pasted } from "./pasting";
import { isPlanned, stepped } from "./typing";
import { fromBox } from "./useCursor";
import type { Grid } from "./useGrid";

/** What keys and the clipboard do in the circuit grid. */
export function useGridKeys(grid: Grid, remedies: Remedy[] | undefined, onTable: (text: string) => void) {
  const { document, rules, edit, notify } = useJob();
  const { rows, edits, checks, spot, chosen, actions } = grid;
  const which = edits[spot.column - 1];

  /** What a key does on the cell the cursor is in; false where it means nothing here. */
  const takeKey = ({ key, ctrlKey, metaKey }: KeyboardEvent): boolean => {
    if (!chosen) return false;
    const to = moved(spot, key, rows.length, 1 + edits.length + checks.length, ctrlKey);
    if (to) return done(actions.put(to));
    if (ctrlKey || metaKey) return false;
    if (key === "p" && !which) return done(grid.turn(otherGroup(grid.group)));
    if (which) {
      if (key === "+" || key === "-")
        return done(edit(withCircuits(document, [stepped(chosen, which, key === "+", rules)])));
      if (key === "Enter") return done(actions.begin(spot, editText(chosen, which, rules)));
      if (key === "Delete" || key === "Backspace") return done(actions.begin(spot, ""));
      if (beginsTyping(key) && key !== "e") return done(actions.begin(spot, key));
    }
    if (key === "e" || (key === "Enter" && spot.column === 0)) return done(grid.setOpened(chosen.id));
    if (key === "Delete" && spot.column === 0) return done(grid.remove(chosen.id));
    const remedy = /^[1-9]$/.test(key) ? remedies?.[Number(key) - 1] : undefined;
    return remedy && spot.column > edits.length ? done(grid.take(remedy)) : false;
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (fromBox(event) || event.altKey) return;
    if (takeKey(event)) event.preventDefault();
  };

  const onPaste = (event: ClipboardEvent) => {
    if (fromBox(event)) return;
    const text = event.clipboardData.getData("text/plain");
    if (!text.trim()) return;
    event.preventDefault();
    if (!which) {
      if (isTable(text)) onTable(text);
      else notify(t("web.circuits.paste_single"));
      return;
    }
    const circuits = rows.slice(spot.row).map((row) => row.circuit);
    const result = pasted(circuits, edits.slice(spot.column - 1), pastedRows(text), rules, (each) =>
      isPlanned(document, each),
    );
    if ("error" in result) return notify(t("web.circuits.paste_refused", { reason: result.error }));
    edit(withCircuits(document, result.circuits));
    notify(t("web.circuits.pasted", { n: result.cells }));
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

  return { onKeyDown, onPaste };
}

/** A key that did something. */
const done = (_: unknown) => true;
