import { type RefObject, useCallback, useMemo } from "react";
import { answered, client, Refused, type Revision } from "../api/client";
import { t } from "../messages/text";
import type { Base } from "./draft";

/** Undo and redo: a step back or forth in the job's history, from what is saved. */
export function useSteps(
  jobId: string,
  saved: () => Promise<number>,
  baseRef: RefObject<Base>,
  openRevision: (revision: Revision) => void,
  notify: (message: string) => void,
) {
  const step = useCallback(
    async (direction: "undo" | "redo") => {
      await saved();
      const path = direction === "undo" ? "/api/jobs/{job_id}/undo" : "/api/jobs/{job_id}/redo";
      const { number, uid } = baseRef.current;
      const body = { base: number, base_uid: uid };
      try {
        openRevision(await answered(client.POST(path, { params: { path: { job_id: jobId } }, body })));
        notify("");
      } catch (reason) {
        const { message } = reason as Error;
        notify(
          reason instanceof Refused
            ? message
            : t(direction === "undo" ? "web.job.undo_failed" : "web.job.redo_failed", { reason: message }),
        );
      }
    },
    [jobId, saved, baseRef, openRevision, notify],
  );
  return useMemo(() => ({ undo: () => step("undo"), redo: () => step("redo") }), [step]);
}
