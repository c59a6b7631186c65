import { useState } from "react";

type Open<T> = { [Key in keyof T]?: T[Key] | null };

/** Figures that only make sense together: they wait here until all that is needed is typed, and count from then on. */
export function useDraft<T extends object>(
  kept: T | null | undefined,
  needed: readonly (keyof T)[],
  keep: (whole: T) => void,
) {
  const [draft, setDraft] = useState<Open<T>>({});
  const shown: Open<T> = kept ?? draft;
  const set = (part: Open<T>) => {
    const next = { ...shown, ...part };
    setDraft(next);
    if (needed.every((field) => next[field] !== null && next[field] !== undefined)) keep(next as T);
  };
  return { shown, set, waits: !kept };
}
