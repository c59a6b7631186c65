/** How many lines are offered. */
const SHOWN = 8;
/** Letters after which a word is completed. */
const FROM_LETTERS = 2;

/**
 * What a line may go on to: lines entered before that begin with it, then the line with its last word or words completed by a
 * word for a load or a room.
 */
export function completions(text: string, words: readonly string[], recent: readonly string[]): string[] {
  const typed = text.toLowerCase();
  if (!typed.trim()) return recent.slice(0, SHOWN);
  const before = recent.filter((line) => line.toLowerCase().startsWith(typed) && line.length > text.length);
  return [...new Set([...before, ...byWord(text, words)])].slice(0, SHOWN);
}

function byWord(text: string, words: readonly string[]): string[] {
  // The last two words first: "living r" is a room, not a word of its own.
  for (const pattern of [/[\p{L}-]+ [\p{L}-]+$/u, /[\p{L}-]+$/u]) {
    const fragment = pattern.exec(text)?.[0] ?? "";
    if (fragment.length < FROM_LETTERS) continue;
    const stem = fragment.toLowerCase();
    const found = words.filter(
      (word) => word.toLowerCase().startsWith(stem) && word.length > fragment.length,
    );
    if (found.length) return found.map((word) => text.slice(0, text.length - fragment.length) + word);
  }
  return [];
}
