import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Archive, ArchiveRestore, Copy } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { answered, client, type JobLine, type JobSummary } from "../api/client";
import { summaryQuery } from "../api/queries";
import { type Key, t } from "../messages/text";
import { startTour } from "../tour/tourModel";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { BoardMiniatures } from "./BoardMiniature";

const STATUS: Record<JobSummary["status"], { word: Key; mark: string; look: string }> = {
  failing: { word: "web.jobs.status.failing", mark: "▲", look: "text-fail" },
  "needs-input": { word: "web.jobs.status.needs_input", mark: "?", look: "text-missing" },
  "to-confirm": { word: "web.jobs.status.to_confirm", mark: "□", look: "text-ink" },
  advice: { word: "web.jobs.status.advice", mark: "◇", look: "text-advice" },
  ready: { word: "web.jobs.status.ready", mark: "✓", look: "text-ink" },
  empty: { word: "web.jobs.status.empty", mark: "", look: "text-soft" },
};
/** The demo that the tour goes through. */
const LEAD = "millrace";
/** What each status counts. */
const COUNTED: Partial<Record<JobSummary["status"], string>> = {
  failing: "fail",
  "needs-input": "missing",
  advice: "advice",
};

/** A job in the list: its board in miniature, its status, its last change in words; copied or archived from here. */
export function JobCard({ job }: { job: JobLine }) {
  const summary = useQuery(summaryQuery(job.id, job.head)).data;
  const navigate = useNavigate();
  return (
    <li
      className="flex items-center gap-4 rounded-xl border border-line bg-sheet px-4 py-2.5"
      data-job={job.id}
    >
      <div className="h-16 w-28 shrink-0 max-sm:hidden">
        {summary && <BoardMiniatures summary={summary} />}
      </div>
      <div className="min-w-0 flex-1">
        <p className="flex flex-wrap items-baseline gap-x-3">
          <Link to={`/jobs/${job.id}/circuits`} className="font-semibold hover:text-accent hover:underline">
            {job.title}
          </Link>
          {summary && <Status summary={summary} />}
          {summary?.closed && (
            <span className="whitespace-nowrap text-[12.5px] text-pass">
              <span aria-hidden="true">✓ </span>
              {t("web.jobs.closed")}
            </span>
          )}
        </p>
        <p className="truncate text-[13px] text-soft">{[job.client, job.site].filter(Boolean).join(" · ")}</p>
        <p className="truncate text-[12px] text-soft" title={job.changed}>
          <span className="figure">{t("web.jobs.line", { n: job.circuits, when: when(job.saved_at) })}</span>
          {/* The words of the first revision say where it came from, which the list shows already. */}
          {job.head > 1 && ` · ${job.changed}`}
        </p>
      </div>
      {job.demo === LEAD && (
        <Button onClick={() => startTour(navigate, job.id)}>{t("web.tour.start")}</Button>
      )}
      <DuplicateButton job={job} />
      <ArchiveButton job={job} />
    </li>
  );
}

const when = (at: string) =>
  new Date(at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

/** The status of a job in a word, with how many of it. */
function Status({ summary }: { summary: JobSummary }) {
  const { word, mark, look } = STATUS[summary.status];
  const n =
    summary.status === "to-confirm" ? summary.to_confirm : summary.causes[COUNTED[summary.status] ?? ""];
  return (
    <span className={cx("whitespace-nowrap text-[12.5px]", look)} data-status={summary.status}>
      <span aria-hidden="true">{mark} </span>
      {t(word, { n: n ?? 0 })}
    </span>
  );
}

function DuplicateButton({ job }: { job: JobLine }) {
  const queries = useQueryClient();
  const copy = useMutation({
    mutationFn: () =>
      answered(client.POST("/api/jobs/{job_id}/duplicate", { params: { path: { job_id: job.id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
  const label = t("web.jobs.duplicate_label", { job: job.title });
  return (
    <Button
      variant="quiet"
      aria-label={label}
      title={label}
      disabled={copy.isPending}
      onClick={() => copy.mutate()}
    >
      <Copy size={15} aria-hidden />
    </Button>
  );
}

function ArchiveButton({ job }: { job: JobLine }) {
  const queries = useQueryClient();
  const change = useMutation({
    mutationFn: () =>
      answered(
        client.POST("/api/jobs/{job_id}/archive", {
          params: { path: { job_id: job.id } },
          body: { archived: !job.archived },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
  const label = t(job.archived ? "web.jobs.unarchive_label" : "web.jobs.archive_label", { job: job.title });
  const Icon = job.archived ? ArchiveRestore : Archive;
  return (
    <Button variant="quiet" aria-label={label} title={label} onClick={() => change.mutate()}>
      <Icon size={15} aria-hidden />
    </Button>
  );
}
