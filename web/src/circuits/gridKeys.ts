/** Where the cursor stands in the lattice: row and column, counted from 0. */
export type Spot = { row: number; column: number };

/** Where a key takes the cursor in a grid of so many rows and columns; undefined for a key that moves nothing. */
export function moved(
  spot: Spot,
  key: string,
  rows: number,
  columns: number,
  ctrl = false,
): Spot | undefined {
  const clamp = (value: number, count: number) => Math.min(Math.max(value, 0), count - 1);
  const to = (row: number, column: number) => ({ row: clamp(row, rows), column: clamp(column, columns) });
  switch (key) {
    case "ArrowUp":
      return to(spot.row - 1, spot.column);
    case "ArrowDown":
      return to(spot.row + 1, spot.column);
    case "ArrowLeft":
      return to(spot.row, spot.column - 1);
    case "ArrowRight":
      return to(spot.row, spot.column + 1);
    case "Home":
      return to(ctrl ? 0 : spot.row, 0);
    case "End":
      return to(ctrl ? rows - 1 : spot.row, columns - 1);
    case "PageUp":
      return to(spot.row - 10, spot.column);
    case "PageDown":
      return to(spot.row + 10, spot.column);
    default:
      return undefined;
  }
}

/** Whether a key begins typing into a cell. */
export function beginsTyping(key: string): boolean {
  return key.length === 1 && /[\da-z.,]/i.test(key);
}
