import { type Key, t } from "../messages/text";

/** The options of a choice, from what each value is called. */
export const options = <T extends string>(titles: Record<T, Key>) =>
  (Object.entries(titles) as [T, Key][]).map(([value, title]) => ({ value, label: t(title) }));
