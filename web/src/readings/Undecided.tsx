import { useQuery, useQueryClient } from "@tanstack/react-query";
import { answered, client, type PlannedTest, type ReadingRecord, type TestingView } from "../api/client";
import { readingsQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { shownReading, shownTime } from "./testModel";

type Reading = ReadingRecord["reading"];

const sameThing = (one: Reading, other: Reading | PlannedTest) =>
  one.test === other.test && one.subject.kind === other.subject.kind && one.subject.id === other.subject.id;

/** Two readings of one thing, from two places: each with who read it and when. One of them counts; both stay in the history. */
export function Undecided({ view }: { view: TestingView }) {
  const { jobId, revision, document, takeRevision, notify } = useJob();
  const queries = useQueryClient();
  const records = useQuery(readingsQuery(jobId, revision.number)).data ?? [];
  const open = records.filter(({ undecided }) => undecided);
  if (open.length === 0) return null;
  const tests = [...view.plan.tests, ...view.plan.beyond];
  const decide = async (id: string, take: boolean) => {
    const path = { job_id: jobId, reading_id: id };
    try {
      takeRevision(
        await answered(
          client.POST("/api/jobs/{job_id}/readings/{reading_id}/decide", {
            params: { path },
            body: { take },
          }),
        ),
      );
    } catch (reason) {
      notify(reason instanceof Error ? reason.message : String(reason));
    }
    void queries.invalidateQueries({ queryKey: ["readings", jobId] });
  };
  return (
    <section
      aria-label={t("web.testing.undecided")}
      className="mb-4 w-full max-w-5xl"
      data-testid="undecided"
    >
      <h2 className="text-[14px] font-semibold">{t("web.testing.undecided")}</h2>
      <p className="mb-1 text-[12.5px] text-soft">{t("web.testing.undecided_hint")}</p>
      <ul>
        {open.map(({ reading }) => {
          const test = tests.find((each) => sameThing(reading, each));
          const now = document.testing?.readings?.find(
            (each) => sameThing(reading, each as Reading) && (each.point ?? "") === reading.point,
          ) as Reading | undefined;
          return (
            <li
              key={reading.id}
              className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line/60 py-1 text-[13px]"
            >
              <span className="min-w-40">
                <span className="figure mr-1.5 text-soft">{test?.way ?? ""}</span>
                {test ? `${say(test.name)}, ${say(test.title)}` : `${reading.test} ${reading.subject.id}`}
              </span>
              {now && (
                <Choose reading={now} unit={test?.unit ?? ""} onChoose={() => decide(reading.id, false)} />
              )}
              <Choose reading={reading} unit={test?.unit ?? ""} onChoose={() => decide(reading.id, true)} />
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function Choose({
  reading,
  unit,
  onChoose,
}: {
  reading: Reading;
  unit: string;
  onChoose: () => Promise<void>;
}) {
  const from = [reading.by, shownTime(reading.at)].filter(Boolean).join(", ");
  return (
    <span className="flex items-center gap-2">
      <Button onClick={() => void onChoose()}>
        {t("web.testing.use", { value: shownReading(reading, unit) })}
      </Button>
      <span className="text-[12px] text-soft">{from}</span>
    </span>
  );
}
