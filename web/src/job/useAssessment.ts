import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answered, client, type Job, Refused, Unreachable } from "../api/client";

/** A cell of the circuit grid: which check of which circuit. */
export type Cell = { check: string; circuit: string };

const RETRY_MS = 3000;

/**
 * The assessment of a document, with the calculation of one cell. Asked again at every change of either; until the answer is
 * there the last one stands. `onGood` hears of each document the engine accepted, `onRefused` of one it refused, `onUnanswered` of one that
 * could not be sent to it.
 */
export function useAssessment(
  jobId: string,
  { document, version }: { document: Job; version: number },
  cell: Cell | undefined,
  onGood: (document: Job) => void,
  onRefused: (document: Job, problem: Refused) => void,
  onUnanswered: (document: Job) => void,
) {
  const { data, error, failureReason } = useQuery({
    queryKey: ["assessment", jobId, version, cell ?? null],
    queryFn: async ({ signal }) => {
      const body = { document, explain: cell ? [cell] : [], remedies: false };
      return { assessment: await answered(client.POST("/api/assess", { body, signal })), document };
    },
    networkMode: "always",
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    // A refusal stands; a server that does not answer is asked again until it does.
    retry: (_, reason) => !(reason instanceof Refused),
    retryDelay: RETRY_MS,
  });

  // A query that failed has no data; the assessment before it still stands.
  const last = useRef(data);
  last.current = data ?? last.current;

  const listeners = useRef({ onGood, onRefused, onUnanswered });
  listeners.current = { onGood, onRefused, onUnanswered };
  const told = useRef<Job | null>(null);
  const current = data?.document === document;
  useEffect(() => {
    if (!current || told.current === document) return;
    told.current = document;
    listeners.current.onGood(document);
  }, [current, document]);
  useEffect(() => {
    if (error instanceof Refused && error.status === 422) listeners.current.onRefused(document, error);
  }, [error, document]);

  const unanswered = failureReason instanceof Unreachable;
  useEffect(() => {
    if (unanswered) listeners.current.onUnanswered(document);
  }, [unanswered, document]);

  return { assessment: last.current?.assessment, error: error ?? failureReason ?? undefined, current };
}
