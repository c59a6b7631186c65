import { useSyncExternalStore } from "react";

/** Whether a media query holds now. */
export function useMedia(query: string): boolean {
  const media = window.matchMedia(query);
  return useSyncExternalStore(
    (changed) => {
      media.addEventListener("change", changed);
      return () => media.removeEventListener("change", changed);
    },
    () => media.matches,
  );
}
