import { useQuery } from "@tanstack/react-query";
import { Download, History, Moon, Redo2, Sun, Undo2 } from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { Link, NavLink, Outlet, useParams } from "react-router";
import type { Job } from "../api/client";
import { copyOfJob, draftQuery, jobQuery, rulesQuery } from "../api/queries";
import { t } from "../messages/text";
import { isFromCopy } from "../offline/copies";
import { JobPalette } from "../palette/JobPalette";
import { Tour } from "../tour/Tour";
import { Button } from "../ui/Button";
import { Mark } from "../ui/Mark";
import { useTheme } from "../ui/theme";
import { ConflictDialog } from "./ConflictDialog";
import { HistoryDialog } from "./HistoryDialog";
import { useJob } from "./JobContext";
import { JobProvider } from "./JobProvider";
import { LanguageChoice } from "./LanguageChoice";
import { SaveState } from "./SaveState";
import { Shortcuts, VIEWS } from "./Shortcuts";

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
        <h1 className="mb-2 text-lg font-semibold">{t("web.shell.open_failed")}</h1>
        <p className="mb-3">{error.message}</p>
        <p className="flex gap-3">
          <Button onClick={() => void (job.error ? job : rules.error ? rules : draft).refetch()}>
            {t("web.shell.retry")}
          </Button>
          <Link to="/" className="self-center text-accent underline">
            {t("web.shell.all_jobs")}
          </Link>
        </p>
      </Notice>
    );
  }
  if (!job.data || !rules.data || !draft.data) return <Notice>{t("web.shell.opening")}</Notice>;
  return (
    <JobProvider
      key={jobId}
      opened={job.data}
      draft={draft.data.draft}
      told={draft.data.problem ?? (isFromCopy(copyOfJob(jobId)) ? t("web.job.from_copy") : undefined)}
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
      <header className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-sheet px-4 py-1">
        <Link
          to="/"
          className="flex items-center gap-2 font-semibold max-sm:-order-2"
          aria-label={t("web.shell.home")}
        >
          <Mark /> <span className="max-[1439px]:sr-only">Vivid Lattice</span>
        </Link>
        <nav aria-label={t("web.shell.nav")} className="flex min-w-0 gap-0.5 overflow-x-auto">
          {VIEWS.map(({ path, title }) => (
            <Tab key={path} to={`/jobs/${jobId}/${path}`}>
              {t(title)}
            </Tab>
          ))}
        </nav>
        <h1 className="min-w-0 flex-1 truncate text-right text-[13px] font-medium max-sm:hidden">
          {document.job.title}
        </h1>
        <SaveState state={saveStatus} why={saveProblem} revision={revision.number} />
        <UndoButtons />
        <Button
          variant="quiet"
          aria-label={t("web.shell.history")}
          title={t("web.shell.history")}
          onClick={() => setHistory(true)}
        >
          <History size={16} aria-hidden />
        </Button>
        <Button
          variant="quiet"
          aria-label={t("web.shell.download_job")}
          title={t("web.shell.download_job")}
          onClick={() => download(document)}
        >
          <Download size={16} aria-hidden />
        </Button>
        <LanguageChoice />
        <Button
          variant="quiet"
          aria-label={theme === "light" ? t("web.shell.theme_dark") : t("web.shell.theme_light")}
          title={t("web.shell.theme_switch")}
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
            {t("web.shell.dismiss")}
          </Button>
        </div>
      )}
      <Outlet />
      <ConflictDialog />
      <Shortcuts jobId={jobId} />
      <JobPalette onHistory={() => setHistory(true)} onTheme={toggle} />
      <Tour />
      <HistoryDialog open={history} onOpenChange={setHistory} />
    </div>
  );
}

function Tab({ to, children }: { to: string; children: ReactNode }) {
  return (
    <NavLink
      to={to}
      className="rounded-md px-1.5 py-1 text-[13px] font-medium text-soft hover:text-ink aria-[current=page]:bg-wash aria-[current=page]:text-accent"
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
        aria-label={t("web.shell.undo")}
        title={t("web.shell.undo_hint")}
        disabled={!revision.can_undo}
        onClick={() => void undo()}
      >
        <Undo2 size={16} aria-hidden />
      </Button>
      <Button
        variant="quiet"
        aria-label={t("web.shell.redo")}
        title={t("web.shell.redo_hint")}
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
    new Blob([`${JSON.stringify(document, null, 2)}\n`], {
      type: "application/json",
    }),
  );
  const link = window.document.createElement("a");
  link.href = url;
  link.download = `${document.job.title.replace(/[^\p{L}\p{N}]+/gu, "-").replace(/^-|-$/g, "") || "job"}.json`;
  link.click();
  URL.revokeObjectURL(url);
}
