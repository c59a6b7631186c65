import { useQuery } from "@tanstack/react-query";
import { Download, History, Moon, Redo2, Sun, Undo2 } from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { Link, NavLink, Outlet, useParams } from "react-router";
import type { Job } from "../api/client";
import { draftQuery, jobQuery, rulesQuery } from "../api/queries";
import { Button } from "../ui/Button";
import { Mark } from "../ui/Mark";
import { useTheme } from "../ui/theme";
import { ConflictDialog } from "./ConflictDialog";
import { HistoryDialog } from "./HistoryDialog";
import { useJob } from "./JobContext";
import { JobProvider } from "./JobProvider";
import { SaveState } from "./SaveState";

/** Loads a job and its rules, then lets the views work on it. */
export function JobShell() {
  const { jobId = "" } = useParams();
  const job = useQuery(jobQuery(jobId));
  const rules = useQuery({ ...rulesQuery(job.data?.job.job.rules ?? "uk"), enabled: Boolean(job.data) });
  const draft = useQuery(draftQuery(jobId));
  const error = job.error ?? rules.error ?? draft.error;
  if (error) {
    return (
      <Notice>
        <h1 className="mb-2 text-lg font-semibold">This job cannot be opened</h1>
        <p className="mb-3">{error.message}</p>
        <p className="flex gap-3">
          <Button onClick={() => void (job.error ? job : rules.error ? rules : draft).refetch()}>
            Try again
          </Button>
          <Link to="/" className="self-center text-accent underline">
            All jobs
          </Link>
        </p>
      </Notice>
    );
  }
  if (!job.data || !rules.data || !draft.data) return <Notice>Opening …</Notice>;
  return (
    <JobProvider
      key={jobId}
      opened={job.data}
      draft={draft.data.draft}
      told={draft.data.problem}
      rules={rules.data}
    >
      <Frame />
    </JobProvider>
  );
}

function Notice({ children }: { children: ReactNode }) {
  return <main className="mx-auto max-w-lg p-10">{children}</main>;
}

function Frame() {
  const { jobId, document, saveStatus, saveProblem, revision, message, notify } = useJob();
  const [theme, toggle] = useTheme();
  const [history, setHistory] = useState(false);
  useUndoKeys();
  return (
    <div className="flex h-full min-h-0 flex-col">
      <header className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-sheet px-4 py-1.5">
        <Link to="/" className="flex items-center gap-2 font-semibold" aria-label="Vivid Lattice, all jobs">
          <Mark /> <span className="max-sm:sr-only">Vivid Lattice</span>
        </Link>
        <nav aria-label="Views of the job" className="flex min-w-0 gap-1 overflow-x-auto">
          <Tab to={`/jobs/${jobId}/setup`}>Intake</Tab>
          <Tab to={`/jobs/${jobId}/survey`}>Survey</Tab>
          <Tab to={`/jobs/${jobId}/circuits`}>Lattice</Tab>
          <Tab to={`/jobs/${jobId}/protection`}>Protection</Tab>
          <Tab to={`/jobs/${jobId}/board`}>Board</Tab>
          <Tab to={`/jobs/${jobId}/faults`}>Faults</Tab>
          <Tab to={`/jobs/${jobId}/compare`}>Variants</Tab>
          <Tab to={`/jobs/${jobId}/documents`}>Papers</Tab>
        </nav>
        <h1 className="min-w-0 flex-1 truncate text-right text-[13px] font-medium max-sm:hidden">
          {document.job.title}
        </h1>
        <SaveState state={saveStatus} why={saveProblem} revision={revision.number} />
        <UndoButtons />
        <Button variant="quiet" aria-label="History" title="History" onClick={() => setHistory(true)}>
          <History size={16} aria-hidden />
        </Button>
        <Button
          variant="quiet"
          aria-label="Save a copy as a file"
          title="Save a copy as a file"
          onClick={() => download(document)}
        >
          <Download size={16} aria-hidden />
        </Button>
        <Button
          variant="quiet"
          aria-label={theme === "light" ? "Dark" : "Light"}
          title="Light or dark"
          onClick={toggle}
        >
          {theme === "light" ? <Moon size={16} aria-hidden /> : <Sun size={16} aria-hidden />}
        </Button>
      </header>
      {message && (
        <div
          role="alert"
          className="flex items-center gap-3 border-b border-line bg-wash px-4 py-1.5 text-[13px]"
        >
          <span className="flex-1">{message}</span>
          <Button variant="quiet" onClick={() => notify("")}>
            Close
          </Button>
        </div>
      )}
      <Outlet />
      <ConflictDialog />
      <HistoryDialog open={history} onOpenChange={setHistory} />
    </div>
  );
}

function Tab({ to, children }: { to: string; children: ReactNode }) {
  return (
    <NavLink
      to={to}
      className="rounded-md px-2.5 py-1 text-[13px] font-medium text-soft hover:text-ink aria-[current=page]:bg-wash aria-[current=page]:text-accent"
    >
      {children}
    </NavLink>
  );
}

function UndoButtons() {
  const { undo, redo, revision } = useJob();
  return (
    <span className="flex">
      <Button
        variant="quiet"
        aria-label="Undo"
        title="Undo (Ctrl+Z)"
        disabled={!revision.can_undo}
        onClick={() => void undo()}
      >
        <Undo2 size={16} aria-hidden />
      </Button>
      <Button
        variant="quiet"
        aria-label="Redo"
        title="Redo (Ctrl+Shift+Z)"
        disabled={!revision.can_redo}
        onClick={() => void redo()}
      >
        <Redo2 size={16} aria-hidden />
      </Button>
    </span>
  );
}

/** Ctrl+Z and Ctrl+Shift+Z (or Ctrl+Y) step through the kept revisions, except inside a box that is being typed in. */
function useUndoKeys() {
  const { undo, redo } = useJob();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const typing = event.target instanceof HTMLElement && event.target.matches("input, textarea, select");
      const key = event.key.toLowerCase();
      if (typing || (key !== "z" && key !== "y")) return;
      event.preventDefault();
      void (key === "y" || event.shiftKey ? redo() : undo());
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);
}

function download(document: Job) {
  const url = URL.createObjectURL(
    new Blob([`${JSON.stringify(document, null, 2)}\n`], { type: "application/json" }),
  );
  const link = window.document.createElement("a");
  link.href = url;
  link.download = `${document.job.title.replace(/[^\p{L}\p{N}]+/gu, "-").replace(/^-|-$/g, "") || "job"}.json`;
  link.click();
  URL.revokeObjectURL(url);
}
