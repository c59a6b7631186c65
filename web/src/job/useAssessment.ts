import { useEffect, useRef, useState } from "react";
import { type Assessment, answered, client, type Job, Refused } from "../api/client";

/** A crossing of the lattice: which check of which circuit. */
export type Cell = { check: string; circuit: string };

type Found = { assessment: Assessment; document: Job };

/**
 * The assessment of a document, with the working of one cell. Asked anew at every change of either; until the answer
 * is there the last one stands. `onGood` hears of each document the engine accepted, `onBad` of one it refused.
 */
export function useAssessment(
  document: Job,
  cell: Cell | undefined,
  onGood: (document: Job) => void,
  onBad: (document: Job, problem: Refused) => void,
) {
  const [found, setFound] = useState<Found>();
  const [error, setError] = useState<Error>();
  const [attempt, setAttempt] = useState(0);
  const told = useRef<Job | null>(null);
  const listeners = useRef({ onGood, onBad });
  listeners.current = { onGood, onBad };

  // biome-ignore lint/correctness/useExhaustiveDependencies: attempt asks again on purpose
  useEffect(() => {
    const abort = new AbortController();
    const explain = cell ? [cell] : [];
    answered(
      client.POST("/api/assess", { body: { document, explain, remedies: false }, signal: abort.signal }),
    ).then(
      (assessment) => {
        if (abort.signal.aborted) return;
        setFound({ assessment, document });
        setError(undefined);
        if (told.current !== document) {
          told.current = document;
          listeners.current.onGood(document);
        }
      },
      (reason: Error) => {
        if (abort.signal.aborted) return;
        setError(reason);
        if (reason instanceof Refused && reason.status === 422) listeners.current.onBad(document, reason);
      },
    );
    return () => abort.abort();
  }, [document, cell, attempt]);

  useEffect(() => {
    if (!error || error instanceof Refused) return;
    const timer = setTimeout(() => setAttempt((count) => count + 1), 3000);
    return () => clearTimeout(timer);
  }, [error]);

  return { found, error, current: found?.document === document };
}
