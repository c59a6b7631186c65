import type { JobLine } from "../api/client";

/** Whether a job has every word of a search in its title, client, address or last change. */
export function found(job: JobLine, search: string): boolean {
  const text = [job.title, job.client, job.site, job.changed].join(" ").toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
