import defaults from "../api/defaults.json";

const PAINTS: Record<string, string> = defaults.paints;
/** The longest word first, so that 'dark blue' is not read as blue. */
const WORDS = new RegExp(
  Object.keys(PAINTS)
    .sort((a, b) => b.length - a.length)
    .join("|"),
);
/** The second stripe of a protective conductor. */
export const STRIPE = defaults.paints.yellow;

/** How a conductor's colour is painted; what the standard names none for is drawn in the ink. */
export function paintOf(colour: string): string {
  return PAINTS[WORDS.exec(colour)?.[0] ?? ""] ?? "var(--ink)";
}

/** Whether a conductor has the second stripe of green and yellow. */
export function isStriped(colour: string): boolean {
  return /^green-yellow/.test(colour);
}

/** The background of a sample of a conductor's colour. */
export function swatchOf(colour: string): string {
  const paint = paintOf(colour);
  return isStriped(colour) ? `linear-gradient(135deg,${paint} 50%,${STRIPE} 50%)` : paint;
}
