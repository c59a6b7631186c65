import { type SyntheticEvent, useCallback, useEffect, useRef, useState } from "react";
import type { Spot } from "./gridKeys";

/** What follows the cursor: the focus, only the page as it scrolls (what has the focus keeps it), or nothing. */
type Follow = "focus" | "scroll" | "nothing";

/** The cursor of the circuit grid and the element that holds it; the focus follows the cursor. */
export function useCursor(rows: number) {
  const [spot, setSpot] = useState<Spot>({ row: 0, column: 2 });
  const grid = useRef<HTMLDivElement>(null);
  const follow = useRef<Follow>("nothing");
  const row = Math.min(spot.row, Math.max(rows - 1, 0));

  const put = useCallback((next: Spot, what: Follow = "focus") => {
    follow.current = what;
    setSpot(next);
  }, []);

  useEffect(() => {
    const what = follow.current;
    follow.current = "nothing";
    if (what === "nothing") return;
    const cell = grid.current?.querySelector<HTMLElement>(
      `[data-row="${row}"][data-column="${spot.column}"]`,
    );
    if (what === "focus") cell?.focus({ preventScroll: true });
    cell?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [row, spot]);

  return { spot: { row, column: spot.column }, put, grid };
}

/** Whether an event comes from a box that is being typed in. */
export function fromBox(event: SyntheticEvent): boolean {
  return event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
}
