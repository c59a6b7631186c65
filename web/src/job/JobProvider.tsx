import { useQueryClient } from "@tanstack/react-query";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { useNavigate } from "react-router";
import {
  type Assessment,
  answered,
  client,
  type Job,
  Refused,
  type Revision,
  type RuleSetView,
} from "../api/client";
import { beginFromFile } from "./beginFromFile";
import { takeDraft } from "./draft";
import type { Conflict, Keeping } from "./saveFailure";
import { type Cell, useAssessment } from "./useAssessment";
import { useKeeping } from "./useKeeping";

type OpenJob = {
  jobId: string;
  document: Job;
  version: number;
  revision: Revision;
  assessment: Assessment | undefined;
  /** Whether the assessment is that of the document as it stands: what takes longer waits for it. */
  settled: boolean;
  assessError: Error | undefined;
  rules: RuleSetView;
  keeping: Keeping;
  keepingWhy: string;
  conflict: Conflict | undefined;
  message: string;
  cell: Cell | undefined;
  focus: (cell: Cell | undefined) => void;
  edit: (next: Job) => void;
  say: (message: string) => void;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  takeTheirs: (keepMine: boolean) => Promise<void>;
  putMineOnTop: () => void;
  /** Save this tab's document as a job of its own, and go on with that. */
  saveAsNew: () => Promise<void>;
  /** Waits until the document is kept, and tells the number of the revision it is kept as. */
  kept: () => Promise<number>;
};

const Context = createContext<OpenJob | null>(null);

/** The job that is open. */
export function useJob(): OpenJob {
  const job = useContext(Context);
  if (!job) throw new Error("useJob needs a JobProvider around it.");
  return job;
}

type Open = { document: Job; previous: Job; version: number };

/** Holds the open document; every change is assessed at once, then kept. */
export function JobProvider({
  opened,
  rules,
  children,
}: {
  opened: Revision;
  rules: RuleSetView;
  children: ReactNode;
}) {
  const jobId = opened.job_id;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [draft] = useState(() => takeDraft(jobId));
  const [open, setOpen] = useState<Open>(() => {
    const document = draft?.document ?? opened.job;
    return { document, previous: opened.job, version: 1 };
  });
  const [revision, setRevision] = useState(opened);
  const [message, say] = useState("");
  const [cell, focus] = useState<Cell>();

  const show = useCallback((document: Job) => {
    setOpen((was) => ({ document, previous: was.document, version: was.version + 1 }));
  }, []);
  const onKept = useCallback(
    (kept: Revision) => {
      setRevision(kept);
      void queries.invalidateQueries({ queryKey: ["jobs"] });
    },
    [queries],
  );
  const keeping = useKeeping(jobId, opened, draft ? { number: draft.base, uid: draft.uid } : opened, onKept);
  const { keep, adopt, leave, settle, putOnTop, baseRef } = keeping;

  const shown = useRef(opened.job);
  const { found, error, current } = useAssessment(
    open.document,
    cell,
    (document) => {
      if (document !== shown.current) keep(document);
    },
    (document, problem) => {
      // The engine refused the change: the document before it is put back, and what was wrong is said.
      setOpen((was) =>
        was.document === document ? { ...was, document: was.previous, version: was.version + 1 } : was,
      );
      say(
        problem.problem.problems?.map((line) => `${line.path}: ${line.message}`).join("; ") ||
          problem.message,
      );
    },
  );

  const edit = useCallback(
    (next: Job) => {
      say("");
      show(next);
    },
    [show],
  );

  const take = useCallback(
    (next: Revision) => {
      shown.current = next.job;
      adopt(next);
      setRevision(next);
      show(next.job);
    },
    [adopt, show],
  );

  const step = useCallback(
    async (direction: "undo" | "redo") => {
      await settle();
      const path = direction === "undo" ? "/api/jobs/{job_id}/undo" : "/api/jobs/{job_id}/redo";
      const call = client.POST(path, {
        params: { path: { job_id: jobId } },
        body: { base: baseRef.current.number, base_uid: baseRef.current.uid },
      });
      try {
        take(await answered(call));
        say("");
      } catch (reason) {
        say(
          reason instanceof Refused ? reason.message : `Could not ${direction}: ${(reason as Error).message}`,
        );
      }
    },
    [jobId, settle, take, baseRef],
  );

  const takeTheirs = useCallback(
    async (keepMine: boolean) => {
      try {
        if (keepMine) {
          const title = `${open.document.job.title} (my copy)`.slice(0, 120);
          const mine = { ...open.document, job: { ...open.document.job, title } };
          await beginFromFile(JSON.stringify(mine));
        }
        take(await answered(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId } } })));
        void queries.invalidateQueries({ queryKey: ["jobs"] });
      } catch (reason) {
        say(`Nothing was changed: ${(reason as Error).message}`);
      }
    },
    [jobId, open.document, queries, take],
  );

  const { conflict } = keeping;
  const putMineOnTop = useCallback(
    () => conflict && putOnTop({ number: conflict.head, uid: conflict.headUid }),
    [conflict, putOnTop],
  );

  const saveAsNew = useCallback(async () => {
    try {
      const made = await beginFromFile(JSON.stringify(open.document));
      leave();
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      void navigate(`/jobs/${made.job_id}/lattice`);
    } catch (reason) {
      say(`Nothing was changed: ${(reason as Error).message}`);
    }
  }, [open.document, leave, queries, navigate]);

  useEffect(() => {
    window.document.title = `${open.document.job.title} · Vivid Lattice`;
  }, [open.document.job.title]);

  const kept = useCallback(async () => {
    await settle();
    return baseRef.current.number;
  }, [settle, baseRef]);

  const value = useMemo<OpenJob>(
    () => ({
      jobId,
      document: open.document,
      version: open.version,
      revision,
      assessment: found?.assessment,
      settled: current,
      assessError: error,
      rules,
      keeping: keeping.state,
      keepingWhy: keeping.why,
      conflict,
      message,
      cell,
      focus,
      edit,
      say,
      undo: () => step("undo"),
      redo: () => step("redo"),
      takeTheirs,
      putMineOnTop,
      saveAsNew,
      kept,
    }),
    [
      jobId,
      open,
      revision,
      found,
      current,
      error,
      rules,
      keeping.state,
      keeping.why,
      conflict,
      message,
      cell,
      edit,
      step,
      takeTheirs,
      putMineOnTop,
      saveAsNew,
      kept,
    ],
  );
  return <Context value={value}>{children}</Context>;
}
