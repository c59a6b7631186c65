import { type MessageData, render } from "./catalogue";

/** A text for people: as it was typed, or a message that is rendered where it is shown. */
export type Text = string | MessageData;

/** A text as it is shown. */
export const say = (text: Text): string => (typeof text === "string" ? text : render(text));

/** Whether two texts say the same. */
export const sameText = (a: Text, b: Text): boolean =>
  a === b || (typeof a === "object" && typeof b === "object" && JSON.stringify(a) === JSON.stringify(b));
