import { useRef, useState } from "react";
import { answered, client, type Job } from "../api/client";
import { useJob } from "../job/JobContext";

export type Progress = { done: number; of: number };

/**
 * Enters many lines one after another, as one edit that is undone in one: `progress` while it goes on, and `cancel` leaves the document as it
 * was. Lines that are not understood are left out and told.
 */
export function useEnterLines() {
  const { document, edit, notify } = useJob();
  const [progress, setProgress] = useState<Progress>();
  const stop = useRef<AbortController>(undefined);
  const enter = async (lines: readonly string[]): Promise<string[]> => {
    const aborted = new AbortController();
    stop.current = aborted;
    const refused: string[] = [];
    let made: Job = document;
    try {
      for (const [index, text] of lines.entries()) {
        setProgress({ done: index, of: lines.length });
        try {
          const body = { document: made, text };
          made = (await answered(client.POST("/api/plan/enter", { body, signal: aborted.signal }))).document;
        } catch (error) {
          if (aborted.signal.aborted) return [];
          refused.push(`${text}: ${(error as Error).message}`);
        }
      }
      if (made !== document) edit(made, document);
      if (refused.length > 0) notify(refused.join(" · "));
      return refused;
    } finally {
      setProgress(undefined);
    }
  };
  return { enter, progress, cancel: () => stop.current?.abort() };
}
