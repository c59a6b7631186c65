import { useCallback, useRef, useState } from "react";
import { answered, client, type Job, type NewReading, type PlannedTest } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { newReadingId, wallClock } from "./testModel";

/** What is typed of a test: its text, and what is ticked beside it. */
export type Entry = { test: PlannedTest; text: string } & Partial<
  Pick<NewReading, "reason" | "no_trip" | "alone">
>;

/**
 * Enters readings one after the other, however fast they are typed: each is put into the document that the one before has made. What is not
 * understood stays in its box, and why is told beside it.
 */
export function useEntries(by: string, instrument: string) {
  const { document, edit } = useJob();
  const latest = useRef(document);
  latest.current = document;
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const [problems, setProblems] = useState<Record<string, string>>({});

  const send = useCallback(
    async (entries: Entry[], at: string) => {
      const readings = entries.map(({ test, text, ...more }) => ({
        id: newReadingId(),
        test: test.test,
        subject: test.subject,
        text,
        ...more,
      }));
      const ids = entries.map(({ test }) => test.id);
      const tell = (text: string) =>
        setProblems((before) => ({ ...before, ...Object.fromEntries(ids.map((id) => [id, text])) }));
      // A document changed meanwhile by another edit: the readings are entered into that one.
      for (let attempt = 0; attempt < 3; attempt += 1) {
        const from: Job = latest.current;
        try {
          const body = { document: from, readings, at, by, instrument } as never;
          const { document: next } = await answered(client.POST("/api/testing/readings", { body }));
          if (latest.current !== from) continue;
          edit(next, from);
          latest.current = next;
          tell("");
          return true;
        } catch (reason) {
          tell(reason instanceof Error ? reason.message : String(reason));
          return false;
        }
      }
      tell(t("web.testing.try_again"));
      return false;
    },
    [edit, by, instrument],
  );

  const enter = useCallback(
    (entries: Entry[]) => {
      const at = wallClock(new Date());
      const done = queue.current.then(() => send(entries, at));
      queue.current = done.catch(() => undefined);
      return done;
    },
    [send],
  );
  return { enter, problems };
}
