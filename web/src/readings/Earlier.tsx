import { useQuery } from "@tanstack/react-query";
import type { PlannedTest } from "../api/client";
import { readingsQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { shownReading, shownTime } from "./testModel";

/** The readings of a test that were corrected or removed since: none of them is lost. */
export function Earlier({ test }: { test: PlannedTest }) {
  const { jobId, revision } = useJob();
  const all = useQuery(readingsQuery(jobId, revision.number)).data ?? [];
  const of = all.filter(
    ({ reading }) =>
      reading.test === test.test &&
      reading.subject.kind === test.subject.kind &&
      reading.subject.id === test.subject.id,
  );
  if (!of.length) return null;
  return (
    <ul className="mt-1 text-soft" aria-label={t("web.testing.history")} data-testid="earlier">
      {of.map(({ reading, in_force }) => (
        <li key={reading.id} className={in_force ? "" : "line-through"}>
          <span className="figure">{shownReading(reading, test.unit)}</span>{" "}
          {[shownTime(reading.at), reading.by, reading.reason].filter(Boolean).join(" · ")}
        </li>
      ))}
    </ul>
  );
}
