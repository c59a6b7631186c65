import { useState } from "react";
import type { PlannedTest } from "../api/client";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { TestRow } from "./TestRow";
import type { StepWithTests } from "./testModel";
import type { Enter, WaitingByTest } from "./useEntries";
import type { ConnectedInstrument } from "./useInstrument";

/** A test of the sequence: how it is done, and a row for each thing it is done to. */
export function StepSection({
  step,
  tests,
  enter,
  waiting,
  connected,
}: StepWithTests & {
  enter: Enter;
  waiting: WaitingByTest;
  connected?: ConnectedInstrument;
}) {
  const open = tests.filter(({ judged }) => !judged).map(({ test }) => test);
  return (
    <section aria-label={step.title} className="mb-4">
      <header className="sticky top-0 z-10 flex flex-wrap items-baseline gap-x-3 border-b border-line bg-ground py-1">
        <h2 className="text-[14px] font-semibold">
          <span className="figure mr-1 font-normal text-soft">{step.order}</span>
          {step.title}
        </h2>
        <span className="text-[12px] text-soft">
          {t(step.state === "dead" ? "web.testing.dead" : "web.testing.live")}
        </span>
        <span className="flex-1" />
        <ForAll open={open} enter={enter} />
      </header>
      <details className="text-[12.5px]">
        <summary className="cursor-pointer py-0.5 text-accent">{t("web.testing.how")}</summary>
        <dl className="grid max-w-3xl grid-cols-[max-content_1fr] gap-x-3 gap-y-0.5 pb-1">
          <Said term={t("web.testing.before")} text={step.before} />
          <Said term={t("web.testing.prepare")} text={step.prepare} />
          <Said term={t("web.testing.how")} text={step.how} />
          <Said term={t("web.testing.restore")} text={step.restore} />
          <Said term={t("web.testing.caution")} text={step.caution} />
          <Said term={t("web.testing.source")} text={step.source.publication} />
        </dl>
      </details>
      <ul>
        {tests.map((row) => (
          <TestRow
            key={row.test.id}
            {...row}
            enter={enter}
            waiting={waiting[row.test.id]}
            connected={connected}
          />
        ))}
      </ul>
    </section>
  );
}

function Said({ term, text }: { term: string; text: string }) {
  if (!text) return null;
  return (
    <>
      <dt className="text-soft">{term}</dt>
      <dd>{text}</dd>
    </>
  );
}

/** One answer for every test of the step that is still open: what is seen is right, or the same value. */
function ForAll({ open, enter }: { open: PlannedTest[]; enter: Enter }) {
  const [text, setText] = useState("");
  if (open.length < 2) return null;
  const put = (typed: string) => void enter(open.map((test) => ({ test, text: typed })));
  if (open.every((test) => !test.unit))
    return (
      <Button variant="quiet" onClick={() => put("ok")}>
        {t("web.testing.all_right", { n: String(open.length) })}
      </Button>
    );
  if (new Set(open.map((test) => test.unit)).size > 1) return null;
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) put(text);
        setText("");
      }}
    >
      <input
        aria-label={t("web.testing.same")}
        placeholder={t("web.testing.same")}
        className="w-36 rounded-md border border-line bg-sheet px-2 py-0.5 text-[12.5px]"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Button variant="quiet" type="submit">
        {t("web.testing.apply", { n: String(open.length) })}
      </Button>
    </form>
  );
}
