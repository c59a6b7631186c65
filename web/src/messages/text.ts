import { render } from "./catalogue";
import type en from "./texts/en/web.json";

/** An id of the views' own texts. */
export type Key = keyof typeof en;

let standard = "";

/** The standard whose words the views use: that of the job that is open. */
export function setWordsOf(rules: string): void {
  standard = rules;
}

/** A text of the views, with its parameters. */
export const t = (id: Key, params: Record<string, string | number> = {}): string =>
  render({ id, params, standard });

/** A text that begins a line: its first letter in capitals. */
export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
