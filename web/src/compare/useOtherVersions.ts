import { useQuery } from "@tanstack/react-query";
import { historyQuery, jobsQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";

/** What the open job can be laid beside: its other revisions (`r4`), and other jobs (`j3f2a9c`). */
export function useOtherVersions(): { value: string; label: string }[] {
  const { jobId, revision } = useJob();
  const history = useQuery(historyQuery(jobId, revision.number));
  const jobs = useQuery(jobsQuery);
  return [
    ...(history.data ?? [])
      .filter((line) => line.number !== revision.number)
      .map((line) => ({ value: `r${line.number}`, label: `Revision ${line.number}: ${line.text}` })),
    ...(jobs.data ?? [])
      .filter((job) => job.id !== jobId)
      .map((job) => ({ value: `j${job.id}`, label: t("web.compare.job", { title: job.title }) })),
  ];
}

/** The same as it is asked for. */
export function against(value: string): { revision?: number; job?: string } {
  return value.startsWith("j") ? { job: value.slice(1) } : { revision: Number(value.slice(1)) };
}
