import { createContext, useContext } from "react";
import type { Assessment, Job, Revision, RuleSetView } from "../api/client";
import type { Conflict, SaveStatus } from "./saveFailure";
import type { Cell } from "./useAssessment";

/** What every view of a job works with. */
export type OpenJob = {
  jobId: string;
  document: Job;
  version: number;
  revision: Revision;
  assessment: Assessment | undefined;
  /** Whether the assessment is that of the document as it stands: what takes longer waits for it. */
  settled: boolean;
  assessError: Error | undefined;
  rules: RuleSetView;
  saveStatus: SaveStatus;
  saveProblem: string;
  conflict: Conflict | undefined;
  message: string;
  cell: Cell | undefined;
  focus: (cell: Cell | undefined) => void;
  /**
   * Puts a document in the place of the open one. `from`: the one that it was made from, where that took a while; where another edit
   * came in between, nothing is put in its place and that is said. Returns whether it was.
   */
  edit: (next: Job, from?: Job) => boolean;
  notify: (message: string) => void;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  /** Open the revision that got in between; this tab's document becomes a job of its own, or is dropped. */
  openSaved: (keepMine: boolean) => Promise<void>;
  /** Save this tab's document on top of the revision that got in between. */
  saveMine: () => void;
  /** Save this tab's document as a job of its own, and go on with that. */
  saveAsNew: () => Promise<void>;
  /** Go on from a revision that the server has made by itself, with what is not saved yet on top. */
  takeRevision: (revision: Revision) => void;
  /** Waits until the document is saved, and tells the number of its revision. */
  saved: () => Promise<number>;
};

export const JobContext = createContext<OpenJob | null>(null);

/** The job that is open. */
export function useJob(): OpenJob {
  const job = useContext(JobContext);
  if (!job) throw new Error("useJob needs a JobProvider around it.");
  return job;
}
