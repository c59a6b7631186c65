import { type SyntheticEvent, useCallback, useEffect, useRef, useState } from "react";
import type { Spot } from "./gridKeys";

/** The cursor of the lattice and the element that holds it; the focus follows the cursor. */
export function useCursor(rows: number) {
  const [spot, setSpot] = useState<Spot>({ row: 0, column: 2 });
  const grid = useRef<HTMLDivElement>(null);
  const follow = useRef(false);
  const row = Math.min(spot.row, Math.max(rows - 1, 0));

  const put = useCallback((next: Spot, withFocus = true) => {
    follow.current = withFocus;
    setSpot(next);
  }, []);

  useEffect(() => {
    if (!follow.current) return;
    follow.current = false;
    const cell = grid.current?.querySelector<HTMLElement>(
      `[data-row="${row}"][data-column="${spot.column}"]`,
    );
    cell?.focus({ preventScroll: true });
    cell?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [row, spot]);

  return { spot: { row, column: spot.column }, put, grid };
}

/** Whether an event comes from a box that is being typed in. */
export function fromBox(event: SyntheticEvent): boolean {
  return event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
}
