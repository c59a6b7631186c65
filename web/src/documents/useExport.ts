import { useCallback, useEffect, useRef, useState } from "react";
import type { ExportLine } from "../api/client";
import { postForLines, reasons } from "../api/lines";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { saveFrom } from "./saveFrom";

export type Wanted = {
  kind: string;
  title: string;
  board?: string | null;
  /** Another state to compare with: a revision of this job, or another job. */
  against?: State;
  /** Of which state it is, where not of the open job as it stands. */
  of?: State;
  /** Shown without being asked for: it keeps no one from wanting another. */
  unasked?: boolean;
};
/** A revision of the open job, or another job as it stands. */
export type State = { revision?: number; job?: string };
export type Made = {
  wanted: Wanted;
  id: string;
  name: string;
  pages: number;
  bytes: number;
  revision: number | null;
};
export type Progress = { wanted: Wanted; done: number; all: number; what: string };

/** Makes exports one at a time: with progress, stopped on demand, the last one held to be looked at and saved. */
export function useExport() {
  const { jobId, saved } = useJob();
  const [progress, setProgress] = useState<Progress>();
  const [made, setMade] = useState<Made>();
  const [wrong, setWrong] = useState<string[]>([]);
  const abort = useRef<AbortController>(null);

  useEffect(() => () => abort.current?.abort(), []);

  const make = useCallback(
    async (wanted: Wanted): Promise<Made | undefined> => {
      abort.current?.abort();
      const control = new AbortController();
      abort.current = control;
      setWrong([]);
      setProgress({ wanted, done: 0, all: 0, what: "" });
      try {
        const now = await saved();
        const revision = wanted.of?.job ? null : (wanted.of?.revision ?? now);
        const body = {
          kind: wanted.kind,
          board: wanted.board ?? null,
          revision,
          against_revision: wanted.against?.revision ?? null,
          against_job: wanted.against?.job ?? (wanted.of?.job && wanted.against ? jobId : null),
        };
        const last = await postForLines<ExportLine>(
          `/api/jobs/${wanted.of?.job ?? jobId}/exports`,
          body,
          control.signal,
          ({ done = 0, all = 0, what = "" }) => setProgress({ wanted, done, all, what }),
        );
        if (last?.kind !== "done") throw new Error(t("web.documents.ended"));
        const { export: id = "", name = "", pages = 0, bytes = 0 } = last;
        const ready = { wanted, id, name, pages, bytes, revision };
        setMade(ready);
        return ready;
      } catch (error) {
        if (!control.signal.aborted) setWrong(reasons(error));
        return undefined;
      } finally {
        if (abort.current === control) setProgress(undefined);
      }
    },
    [jobId, saved],
  );

  /** Makes it and has it saved at once. */
  const save = useCallback(
    async (wanted: Wanted) => {
      const ready = await make(wanted);
      if (ready) saveFrom(`/api/exports/${ready.id}`, ready.name);
    },
    [make],
  );

  const stop = useCallback(() => {
    abort.current?.abort();
    setProgress(undefined);
  }, []);
  /** Whether nothing has been wanted yet; asked when it matters, not when it was drawn. */
  const untouched = useCallback(() => abort.current === null, []);
  return { make, save, stop, untouched, progress, made, wrong };
}
