import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { useNavigate } from "react-router";
import { answered, client, type Job, type Revision } from "../api/client";
import { t } from "../messages/text";
import { beginFromFile } from "./beginFromFile";
import type { Autosave } from "./useAutosave";

/** The ways out where another tab or machine saved in between. None of them loses a document that is not given up by hand. */
export function useConflict(
  jobId: string,
  document: Job,
  autosave: Autosave,
  openRevision: (revision: Revision) => void,
  notify: (message: string) => void,
) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { conflict, leave, putOnTop } = autosave;
  const unchanged = useCallback(
    (reason: unknown) => notify(t("web.job.unchanged", { reason: (reason as Error).message })),
    [notify],
  );

  const openSaved = useCallback(
    async (keepMine: boolean) => {
      try {
        if (keepMine) {
          const title = t("web.job.copy_title", { title: document.job.title }).slice(0, 120);
          await beginFromFile(JSON.stringify({ ...document, job: { ...document.job, title } }));
        }
        const path = { job_id: jobId };
        openRevision(await answered(client.GET("/api/jobs/{job_id}", { params: { path } })));
        void queries.invalidateQueries({ queryKey: ["jobs"] });
      } catch (reason) {
        unchanged(reason);
      }
    },
    [jobId, document, queries, openRevision, unchanged],
  );

  const saveMine = useCallback(
    () => conflict && putOnTop({ number: conflict.head, uid: conflict.headUid }),
    [conflict, putOnTop],
  );

  const saveAsNew = useCallback(async () => {
    try {
      const made = await beginFromFile(JSON.stringify(document));
      leave();
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      void navigate(`/jobs/${made.job_id}/circuits`);
    } catch (reason) {
      unchanged(reason);
    }
  }, [document, leave, queries, navigate, unchanged]);

  return useMemo(() => ({ openSaved, saveMine, saveAsNew }), [openSaved, saveMine, saveAsNew]);
}
