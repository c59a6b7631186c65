import { useMemo, useSyncExternalStore } from "react";
import type { Waiting } from "./database";
import { outbox } from "./outbox";

/** What of a job still waits, and why it does; '' while the server answers. */
export function useOutbox(job: string): { waiting: Waiting[]; problem: string } {
  const all = useSyncExternalStore(outbox.subscribe, outbox.all);
  const problem = useSyncExternalStore(outbox.subscribe, outbox.problem);
  return useMemo(() => ({ waiting: all.filter((entry) => entry.job === job), problem }), [all, problem, job]);
}
