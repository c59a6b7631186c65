import { useCallback, useEffect, useRef, useState } from "react";
import { answered, client, type Job, type Revision } from "../api/client";
import { type Base, dropDraft, keepDraft } from "./draft";
import { type Conflict, failureOf, type Keeping } from "./saveFailure";

const RETRY_MS = 3000;

/** Keeps each accepted document on the server, one save at a time, and says how that goes. */
export function useKeeping(
  jobId: string,
  opened: Revision,
  base: Base,
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
        const { number, uid } = baseRef.current;
        const body = { base: number, base_uid: uid, document };
        const call = client.PUT("/api/jobs/{job_id}", { params: { path: { job_id: jobId } }, body });
        const revision = await answered(call);
        baseRef.current = revision;
        kept.current = document;
        if (wanted.current === document) dropDraft(jobId);
        onKept(revision);
        setState("kept");
      } catch (error) {
        const failure = failureOf(error);
        setConflict(failure.conflict);
        setWhy(failure.why);
        setState(failure.state);
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
      baseRef.current = revision;
      kept.current = revision.job;
      wanted.current = revision.job;
      dropDraft(jobId);
      setConflict(undefined);
      setState("kept");
    },
    [jobId],
  );

  /** This tab's document is saved elsewhere: nothing waits any more. */
  const leave = useCallback(() => {
    kept.current = wanted.current;
    dropDraft(jobId);
  }, [jobId]);

  /** Save this tab's document on top of the revision that got in between. */
  const putOnTop = useCallback(
    (head: Base) => {
      baseRef.current = head;
      setConflict(undefined);
      setState("keeping");
      void start();
    },
    [start],
  );

  useEffect(() => {
    if (state !== "unreachable" && state !== "unavailable") return;
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

  return { state, conflict, why, keep, adopt, leave, putOnTop, settle: start, baseRef };
}
