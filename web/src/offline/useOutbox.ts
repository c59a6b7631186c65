import { useMemo, useSyncExternalStore } from "react";
import type { KeptPhoto, Waiting } from "./database";
import { outbox } from "./outbox";
import { photoQueue } from "./photoQueue";
import type { Kept, Queue } from "./queue";

/** What of a job waits in a queue, and why it does; '' while the server answers. */
function useQueue<T extends Kept>(queue: Queue<T>, job: string): { waiting: T[]; problem: string } {
  const all = useSyncExternalStore(queue.subscribe, queue.all);
  const problem = useSyncExternalStore(queue.subscribe, queue.problem);
  return useMemo(() => ({ waiting: all.filter((entry) => entry.job === job), problem }), [all, problem, job]);
}

/** The readings of a job that wait. */
export const useOutbox = (job: string): { waiting: Waiting[]; problem: string } => useQueue(outbox, job);

/** The photos of a job that wait. */
export const usePhotoQueue = (job: string): { waiting: KeptPhoto[]; problem: string } =>
  useQueue(photoQueue, job);
