import { useCallback, useMemo, useRef } from "react";
import type { NewReading } from "../api/client";
import { useJob } from "../job/JobContext";
import type { Waiting } from "../offline/database";
import { outbox } from "../offline/outbox";
import { useOutbox } from "../offline/useOutbox";
import { inForce, newReadingId, type ReadTest, wallClock } from "./testModel";

/** What is typed of a test: its text, and what is ticked beside it; `id`: of what an instrument has read. */
export type Entry = { test: ReadTest; text: string; id?: string } & Partial<
  Pick<NewReading, "reason" | "no_trip" | "alone">
>;
export type Enter = (entries: Entry[]) => Promise<void>;
/** What was typed of each test and is not in the document yet. */
export type WaitingByTest = Record<string, Waiting | undefined>;

/**
 * Enters readings, however fast they are typed and whether the server can be reached or not: each is kept in this browser first. What is not
 * understood stays in its box, and why is told beside it.
 */
export function useEntries(by: string, instrument: string) {
  const { jobId, document } = useJob();
  const { waiting } = useOutbox(jobId);
  const latest = useRef(document);
  latest.current = document;

  const enter: Enter = useCallback(
    (entries) => {
      const at = wallClock(new Date());
      const unsent = outbox.all().filter(({ job, why }) => job === jobId && !why);
      return outbox.put(
        entries.map(({ test, text, id, ...more }) => ({
          id: id ?? newReadingId(),
          job: jobId,
          test: test.id,
          reading: { test: test.test, subject: test.subject, text, ...more } as Waiting["reading"],
          ...{ at, by, instrument },
          before:
            unsent.findLast((other) => other.test === test.id)?.id ?? inForce(latest.current, test)?.id ?? "",
        })),
      );
    },
    [jobId, by, instrument],
  );
  const byTest: WaitingByTest = useMemo(
    () => Object.fromEntries(waiting.map((entry) => [entry.test, entry])),
    [waiting],
  );
  return { enter, waiting: byTest };
}
