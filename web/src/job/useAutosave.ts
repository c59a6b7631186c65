import { useMutation } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answered, client, type Job, type Revision } from "../api/client";
import { outbox } from "../offline/outbox";
import { type Base, deleteDraft, saveDraft } from "./draft";
import { type Conflict, failureOf, type SaveStatus } from "./saveFailure";

const RETRY_MS = 3000;
const UNCHANGED = { state: "saved" as SaveStatus, why: "", conflict: undefined as Conflict | undefined };

/** Saves each accepted document on the server, one save at a time, and tells how that goes. */
export function useAutosave(
  jobId: string,
  opened: Revision,
  base: Base,
  onSaved: (revision: Revision) => void,
) {
  const [status, setStatus] = useState(UNCHANGED);
  const baseRef = useRef(base);
  const saved = useRef<Job>(opened.job);
  const wanted = useRef<Job>(opened.job);
  const running = useRef<Promise<void> | null>(null);

  const { mutateAsync } = useMutation({
    mutationKey: ["save", jobId],
    // Whether the machine is on line says nothing of a server on the same machine.
    networkMode: "always",
    mutationFn: (document: Job) => {
      const { number, uid } = baseRef.current;
      const body = { base: number, base_uid: uid, document };
      return answered(client.PUT("/api/jobs/{job_id}", { params: { path: { job_id: jobId } }, body }));
    },
    onMutate: () => setStatus({ ...UNCHANGED, state: "saving" }),
    onSuccess: (revision, document) => {
      baseRef.current = revision;
      saved.current = document;
      if (wanted.current === document) deleteDraft(jobId);
      onSaved(revision);
      setStatus(UNCHANGED);
    },
    onError: (error) => setStatus({ ...UNCHANGED, ...failureOf(error) }),
  });

  /** Save until nothing waits, or a save fails; resolves in either case. */
  const settle = useCallback((): Promise<void> => {
    const run = async () => {
      while (wanted.current !== saved.current) {
        await outbox.sent(jobId);
        // The page may have gone on from the revision that the readings made.
        if (wanted.current !== saved.current) await mutateAsync(wanted.current);
      }
    };
    running.current ??= run()
      .catch(() => undefined)
      .finally(() => {
        running.current = null;
      });
    return running.current;
  }, [mutateAsync, jobId]);

  const { state } = status;
  /** Have a document saved; at once in this browser, soon on the server. */
  const save = useCallback(
    (document: Job) => {
      wanted.current = document;
      saveDraft(jobId, baseRef.current, document);
      if (state !== "conflict") void settle();
    },
    [jobId, settle, state],
  );

  /** Take a revision of the server's as the one that is open. */
  const adopt = useCallback(
    (revision: Revision) => {
      baseRef.current = revision;
      saved.current = revision.job;
      wanted.current = revision.job;
      deleteDraft(jobId);
      setStatus(UNCHANGED);
    },
    [jobId],
  );

  /** This tab's document is saved elsewhere: nothing waits any more. */
  const leave = useCallback(() => {
    saved.current = wanted.current;
    deleteDraft(jobId);
  }, [jobId]);

  /** Save this tab's document on top of the revision that got in between. */
  const putOnTop = useCallback(
    (head: Base) => {
      baseRef.current = head;
      void settle();
    },
    [settle],
  );

  useEffect(() => {
    if (state !== "unreachable" && state !== "unavailable") return;
    const timer = setTimeout(() => void settle(), RETRY_MS);
    return () => clearTimeout(timer);
  }, [state, settle]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (wanted.current !== saved.current) event.preventDefault();
    };
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, []);

  /** Whether a document is saved as it is. */
  const isSaved = useCallback((document: Job) => saved.current === document, []);

  return { ...status, save, adopt, leave, putOnTop, settle, isSaved, baseRef };
}

export type Autosave = ReturnType<typeof useAutosave>;
