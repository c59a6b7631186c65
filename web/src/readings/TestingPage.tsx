import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { TestingView } from "../api/client";
import { testingQuery } from "../api/queries";
import { ReportPanel } from "../inspection/ReportPanel";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { Segments } from "../ui/Segments";
import { AnotherReading } from "./AnotherReading";
import { Explained } from "./Explained";
import { IsolationSteps } from "./IsolationSteps";
import { StepSection } from "./StepSection";
import { TesterFields, useTester } from "./TesterFields";
import { TestRow } from "./TestRow";
import { progress, type Shown, stepsOf, withReadings } from "./testModel";
import { Undecided } from "./Undecided";
import { Unsent } from "./Unsent";
import { useEntries } from "./useEntries";
import { type ConnectedInstrument, useInstrument } from "./useInstrument";

/** The finished installation is tested: what to read in which order, what was read, and what that says. */
export function TestingPage() {
  const { jobId, document, version } = useJob();
  const view = useQuery(testingQuery(jobId, document, version));
  if (view.error)
    return (
      <main className="p-6">
        <p role="alert">{view.error.message}</p>
      </main>
    );
  if (!view.data) return <main className="p-6 text-soft">{t("web.testing.loading")}</main>;
  if (!view.data.plan.tests.length) return <main className="p-6 text-soft">{t("web.testing.empty")}</main>;
  return <Tests view={view.data} />;
}

function Tests({ view }: { view: TestingView }) {
  const { jobId, document } = useJob();
  const [board, setBoard] = useState("");
  const [shown, setShown] = useState<Shown>("all");
  const tester = useTester();
  const { enter, waiting } = useEntries(tester.by, tester.instrument);
  const connected = useInstrument(enter);
  const [part, setPart] = useState("readings");
  const { done, all } = progress(view);
  const boards = document.boards ?? [];
  const tests = new Set([...view.plan.tests, ...view.plan.beyond].map(({ id }) => id));
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-auto px-4 py-2 max-sm:px-2">
      <div className="mb-2 flex flex-wrap items-end gap-x-5 gap-y-2">
        <p className="w-40 text-[13px]" data-testid="progress">
          <span className="figure">
            {t("web.testing.progress", { done: String(done), all: String(all) })}
          </span>
          <progress className="block h-1.5 w-full accent-accent" max={all || 1} value={done} />
        </p>
        <Segments
          label={t("web.testing.part")}
          options={[
            { id: "readings", title: t("web.testing.readings") },
            { id: "report", title: t("web.testing.report") },
          ]}
          value={part}
          onChange={setPart}
        />
        {part === "readings" && (
          <Segments
            label={t("web.testing.shown")}
            options={[
              { id: "all", title: t("web.testing.all") },
              { id: "open", title: t("web.testing.open") },
              { id: "bad", title: t("web.testing.bad") },
            ]}
            value={shown}
            onChange={(id) => setShown(id as Shown)}
          />
        )}
        {part === "readings" && boards.length > 1 && (
          <Segments
            label={t("web.testing.board")}
            options={[
              { id: "all-boards", title: t("web.testing.all_boards") },
              ...boards.map(({ id, name }) => ({ id, title: name })),
            ]}
            value={board || "all-boards"}
            onChange={(id) => setBoard(id === "all-boards" ? "" : id)}
          />
        )}
        <TesterFields tester={tester} connected={connected} intervals={view.plan.intervals} />
      </div>
      <Unsent job={jobId} tests={tests} />
      <Undecided view={view} />
      {part === "report" ? (
        <ReportPanel by={tester.by} />
      ) : (
        <Readings {...{ view, board, shown, enter, waiting, connected }} by={tester.by} />
      )}
    </main>
  );
}

/** The sequence of tests with what was read, and what disagreements usually mean. */
function Readings({
  view,
  board,
  shown,
  by,
  enter,
  waiting,
  connected,
}: { view: TestingView; board: string; shown: Shown; by: string; connected: ConnectedInstrument } & Pick<
  ReturnType<typeof useEntries>,
  "enter" | "waiting"
>) {
  const steps = stepsOf(view, board, shown);
  return (
    <>
      <Explained diagnoses={view.diagnoses} enter={enter} waiting={waiting} />
      <IsolationSteps plan={view.plan} by={by} />
      <div className="w-full max-w-5xl">
        {steps.map((step) => (
          <StepSection key={step.step.id} {...step} enter={enter} waiting={waiting} connected={connected} />
        ))}
      </div>
      {view.plan.beyond.length > 0 && shown !== "open" && (
        <section aria-label={t("web.testing.beyond")} className="mb-4 w-full max-w-5xl">
          <h2 className="border-b border-line py-1 text-[14px] font-semibold">{t("web.testing.beyond")}</h2>
          <ul>
            {withReadings(view.plan.beyond, view).map((row) => (
              <TestRow key={row.test.id} {...row} enter={enter} waiting={waiting[row.test.id]} />
            ))}
          </ul>
        </section>
      )}
      <AnotherReading others={view.plan.others} enter={enter} waiting={waiting} />
      {steps.length === 0 && (
        <p className="py-6 text-soft">
          {t(shown === "open" ? "web.testing.none_open" : "web.testing.none_bad")}
        </p>
      )}
    </>
  );
}
