import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Job, Refused, Revision, RuleSetView } from "../api/client";
import { copyOfJob } from "../api/queries";
import { setWordsOf, t } from "../messages/text";
import { keepCopy } from "../offline/copies";
import { outbox } from "../offline/outbox";
import { type Draft, saveDraft } from "./draft";
import { JobContext, type OpenJob } from "./JobContext";
import { type Cell, useAssessment } from "./useAssessment";
import { useAutosave } from "./useAutosave";
import { useConflict } from "./useConflict";
import { useSteps } from "./useSteps";

type Open = { document: Job; previous: Job; version: number };

type Props = {
  opened: Revision;
  /** An edit of this browser that was never saved; it goes on from there. */
  draft?: Draft;
  rules: RuleSetView;
  /** What is to be told at once. */
  told?: string;
  children: ReactNode;
};

/** The standard without the columns that a job has nothing for. */
const withColumnsOf = (rules: RuleSetView, hasLocalDevices: boolean): RuleSetView =>
  hasLocalDevices ? rules : { ...rules, checks: rules.checks.filter((check) => !check.where_used) };

/** Holds the open document; every change is assessed at once, then saved. */
export function JobProvider({ opened, draft, rules, told = "", children }: Props) {
  const jobId = opened.job_id;
  const queries = useQueryClient();
  const [open, setOpen] = useState<Open>(() => {
    const document = draft?.document ?? opened.job;
    return { document, previous: opened.job, version: 1 };
  });
  const [revision, setRevision] = useState(opened);
  const hasLocalDevices = open.document.circuits?.some((circuit) => circuit.local_devices?.length) ?? false;
  const shownRules = useMemo(() => withColumnsOf(rules, hasLocalDevices), [rules, hasLocalDevices]);
  // Before anything below is drawn: its texts use the words of the job's standard.
  setWordsOf(open.document.job.rules ?? "");
  const [message, notify] = useState(told);
  const [cell, focus] = useState<Cell>();

  const show = useCallback((document: Job) => {
    setOpen((before) => ({ document, previous: before.document, version: before.version + 1 }));
  }, []);
  const onSaved = useCallback(
    (saved: Revision) => {
      setRevision(saved);
      void queries.invalidateQueries({ queryKey: ["jobs"] });
    },
    [queries],
  );
  const base = draft ? { number: draft.base, uid: draft.uid } : opened;
  const autosave = useAutosave(jobId, opened, base, onSaved);
  const { save, adopt, settle, isSaved, baseRef } = autosave;

  const openedRef = useRef(opened.job);
  const onGood = (document: Job) => {
    if (document !== openedRef.current) save(document);
  };
  // The engine refused the change: the document before it is put back, and what was wrong is told.
  const onRefused = (document: Job, { problem, message: text }: Refused) => {
    setOpen((at) =>
      at.document === document ? { ...at, document: at.previous, version: at.version + 1 } : at,
    );
    notify(problem.problems?.map((line) => `${line.path}: ${line.message}`).join("; ") || text);
  };
  // It is not checked yet, but it is not lost.
  const onUnanswered = (document: Job) => {
    if (document !== openedRef.current) saveDraft(jobId, baseRef.current, document);
  };
  const assessed = useAssessment(jobId, open, cell, onGood, onRefused, onUnanswered);

  const latest = useRef(open.document);
  latest.current = open.document;
  const edit = useCallback(
    (next: Job, from?: Job) => {
      const current = !from || from === latest.current;
      notify(current ? "" : t("web.job.edited_since"));
      if (current) show(next);
      return current;
    },
    [show],
  );
  const openRevision = useCallback(
    (next: Revision) => {
      openedRef.current = next.job;
      adopt(next);
      setRevision(next);
      show(next.job);
    },
    [adopt, show],
  );
  const saved = useCallback(async () => {
    await settle();
    return baseRef.current.number;
  }, [settle, baseRef]);
  const takeRevision = useCallback(
    (next: Revision) => {
      const mine = latest.current;
      if (isSaved(mine) || next.uid === baseRef.current.uid) {
        if (next.uid !== baseRef.current.uid) openRevision(next);
        return;
      }
      // Edits that are not saved yet stay on top; of one made from another revision the next save tells.
      if (next.parent !== baseRef.current.number) return;
      openRevision(next);
      show({ ...mine, testing: { ...mine.testing, readings: next.job.testing?.readings } as Job["testing"] });
    },
    [isSaved, baseRef, openRevision, show],
  );
  const status = useRef(autosave.state);
  status.current = autosave.state;
  useEffect(() => {
    // A conflict waits for its own answer; readings do not wait for it.
    const settled = () => (status.current === "conflict" ? undefined : settle());
    return outbox.open(jobId, { settle: settled, merged: takeRevision });
  }, [jobId, settle, takeRevision]);
  useEffect(() => void keepCopy(copyOfJob(jobId), revision), [jobId, revision]);
  const steps = useSteps(jobId, saved, baseRef, openRevision, notify);
  const ways = useConflict(jobId, open.document, autosave, openRevision, notify);

  useEffect(() => {
    window.document.title = t("web.job.window_title", { title: open.document.job.title });
  }, [open.document.job.title]);

  const { document, version } = open;
  const { why: saveProblem, conflict } = autosave;
  // An edit is not saved while the engine still looks at it.
  const saveStatus = autosave.state === "saved" && !isSaved(document) ? "saving" : autosave.state;
  const { assessment, error: assessError, current: settled } = assessed;
  const value = useMemo<OpenJob>(
    () => ({
      ...{
        jobId,
        document,
        version,
        revision,
        rules: shownRules,
        message,
        cell,
        focus,
        edit,
        notify,
        saved,
        takeRevision,
      },
      ...{ assessment, settled, assessError, saveStatus, saveProblem, conflict },
      ...steps,
      ...ways,
    }),
    // biome-ignore format: one line is easier to compare with the one above
    [jobId, document, version, revision, shownRules, message, cell, edit, saved, takeRevision, assessment, settled, assessError, saveStatus, saveProblem, conflict, steps, ways],
  );
  return <JobContext value={value}>{children}</JobContext>;
}
