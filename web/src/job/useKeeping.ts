import { useCallback, useEffect, useRef, useState } from "react";
import {
  answered,
  type ConflictProblem,
  client,
  type Job,
  Refused,
  type Revision,
  Unreachable,
} from "../api/client";
import { dropDraft, keepDraft } from "./draft";

export type Keeping = "kept" | "keeping" | "unreachable" | "refused" | "conflict";
export type Conflict = { head: number; theirs: string[]; yours: string[] };

const RETRY_MS = 3000;

/** Keeps each accepted document on the server, one save at a time, and says how that goes. */
export function useKeeping(
  jobId: string,
  opened: Revision,
  base: number,
  onKept: (revision: Revision) => void,
) {
  const [state, setState] = useState<Keeping>("kept");
  const [conflict, setConflict] = useState<Conflict>();
  const [why, setWhy] = useState("");
  const baseRef = useRef(base);
  const kept = useRef<Job>(opened.job);
  const wanted = useRef<Job>(opened.job);
  const running = useRef<Promise<void> | null>(null);

  const run = useCallback(async () => {
    while (wanted.current !== kept.current) {
      const document = wanted.current;
      setState("keeping");
      try {
        const body = { base: baseRef.current, document };
        const call = client.PUT("/api/jobs/{job_id}", { params: { path: { job_id: jobId } }, body });
        const revision = await answered(call);
        baseRef.current = revision.number;
        kept.current = document;
        if (wanted.current === document) dropDraft(jobId);
        onKept(revision);
        setState("kept");
      } catch (error) {
        if (error instanceof Refused && error.status === 409) {
          const problem = error.problem as ConflictProblem;
          setConflict({ head: problem.head ?? 0, theirs: problem.theirs ?? [], yours: problem.yours ?? [] });
          setState("conflict");
        } else {
          setWhy(error instanceof Error ? error.message : String(error));
          setState(error instanceof Unreachable ? "unreachable" : "refused");
        }
        return;
      }
    }
  }, [jobId, onKept]);

  const start = useCallback((): Promise<void> => {
    if (!running.current) {
      running.current = run().finally(() => {
        running.current = null;
      });
    }
    return running.current;
  }, [run]);

  /** Have a document kept; at once in this browser, soon on the server. */
  const keep = useCallback(
    (document: Job) => {
      wanted.current = document;
      keepDraft(jobId, baseRef.current, document);
      if (state !== "conflict") void start();
    },
    [jobId, start, state],
  );

  /** Take a revision of the server's as the one that is open. */
  const adopt = useCallback(
    (revision: Revision) => {
      baseRef.current = revision.number;
      kept.current = revision.job;
      wanted.current = revision.job;
      dropDraft(jobId);
      setConflict(undefined);
      setState("kept");
    },
    [jobId],
  );

  /** Save this tab's document on top of the revision that got in between. */
  const putOnTop = useCallback(
    (head: number) => {
      baseRef.current = head;
      setConflict(undefined);
      setState("keeping");
      void start();
    },
    [start],
  );

  useEffect(() => {
    if (state !== "unreachable") return;
    const timer = setTimeout(() => void start(), RETRY_MS);
    return () => clearTimeout(timer);
  }, [state, start]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (wanted.current !== kept.current) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, []);

  return { state, conflict, why, keep, adopt, putOnTop, settle: start, baseRef };
}
