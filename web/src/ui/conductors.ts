const PAINT: [RegExp, string][] = [
  [/green/, "#2f8f3e"],
  [/dark blue/, "#1d3f9c"],
  [/light blue/, "#6db3f2"],
  [/blue/, "#2f6fd6"],
  [/brown/, "#7a4a21"],
  [/black/, "#1a1a1a"],
  [/grey/, "#8a8f98"],
  [/red/, "#c22a2a"],
  [/white/, "#ffffff"],
  [/yellow/, "#e5c31b"],
];

/** How a conductor's colour is painted; what the school names none for is drawn in the ink. */
export function paintOf(colour: string): string {
  return PAINT.find(([pattern]) => pattern.test(colour))?.[1] ?? "var(--ink)";
}

/** Whether a conductor has the second stripe of green and yellow. */
export function isStriped(colour: string): boolean {
  return /green-yellow/.test(colour);
}
