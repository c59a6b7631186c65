import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { type Act, type Attempt, answered, type BoardSpec, client } from "../api/client";

/** An attempt, what it comes to, and what can be done with it. */
export type Practice = ReturnType<typeof useAttempt>;

const KEPT = "training-attempt";

/** The attempt that was left open in this browser, or none. */
function kept(): Attempt | undefined {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "null") ?? undefined;
  } catch {
    return undefined;
  }
}

/**
 * An attempt at a board: the record of what was done, kept in this browser act by act, and what it comes to. The server
 * replays it; what is hidden stays there until the end.
 */
export function useAttempt() {
  const [attempt, setAttempt] = useState<Attempt | undefined>(kept);
  const keep = useCallback((next: Attempt | undefined) => {
    if (next) localStorage.setItem(KEPT, JSON.stringify(next));
    else localStorage.removeItem(KEPT);
    setAttempt(next);
  }, []);
  const view = useQuery({
    queryKey: ["training", attempt],
    enabled: attempt !== undefined,
    queryFn: async ({ signal }) =>
      answered(client.POST("/api/training/play", { body: attempt as Attempt, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });
  const act = (...acts: Act[]) =>
    attempt && keep({ ...attempt, acts: [...(attempt.acts ?? []), ...acts] as Attempt["acts"] });
  const start = (board: BoardSpec) => keep({ board, acts: [] });
  return { attempt, view, act, start, leave: () => keep(undefined) };
}
