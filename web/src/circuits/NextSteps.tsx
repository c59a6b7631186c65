import type { Assessment, CauseGroup, NextStep } from "../api/client";
import { ToConfirm } from "../assumptions/ToConfirm";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { CauseMark, type Jump, useGoToCause } from "./CauseList";
import { Counts } from "./Counts";

type Props = { assessment: Assessment | undefined; onCircuit: Jump };

/** What needs attention, in order of importance: the first of each kind, a press away from its place. */
export function NextSteps({ assessment, onCircuit }: Props) {
  const steps = assessment?.next_steps ?? [];
  return (
    <section
      aria-label={t("web.next.title")}
      data-testid="next-steps"
      className="rounded-xl border border-line px-3 py-2"
    >
      <header className="flex flex-wrap items-baseline justify-between gap-x-2">
        <h2 className="text-[13px] font-semibold">{t(steps.length ? "web.next.title" : "web.next.none")}</h2>
        <Counts assessment={assessment} onCircuit={onCircuit} />
      </header>
      <ol className="flex flex-col">
        {steps.map((step) => (
          <li key={step.kind} data-step={step.kind} className="border-t border-line first:border-t-0">
            <StepLine step={step} assessment={assessment} onCircuit={onCircuit} />
          </li>
        ))}
      </ol>
    </section>
  );
}

function StepLine({ step, assessment, onCircuit }: Props & { step: NextStep }) {
  const cause = assessment?.causes[step.causes[0] ?? -1];
  if (step.kind === "confirm") return <ToConfirm assessment={assessment} />;
  if (cause) return <FirstCause cause={cause} rest={step.n - 1} onCircuit={onCircuit} />;
  return (
    <button
      type="button"
      className="w-full rounded py-1 text-left text-[13px] hover:text-accent"
      onClick={() => onCircuit("overload", step.circuits[0] ?? "")}
    >
      {t("web.next.design", { n: step.n })}
    </button>
  );
}

/** The first cause of a kind in its sentence, and how many follow; a press goes to its place. */
function FirstCause({ cause, rest, onCircuit }: { cause: CauseGroup; rest: number; onCircuit: Jump }) {
  const go = useGoToCause(onCircuit);
  const sentence = say(cause.sentence);
  return (
    <button
      type="button"
      title={sentence}
      className="grid w-full grid-cols-[1.1rem_1fr_auto] items-baseline gap-1 rounded py-1 text-left text-[13px] hover:text-accent"
      onClick={() => go(cause)}
    >
      <CauseMark verdict={cause.verdict} />
      <span className="line-clamp-2">{sentence}</span>
      {rest > 0 && (
        <span className="figure text-[12px] text-soft">{t("web.next.more", { n: rest + 1 })}</span>
      )}
    </button>
  );
}
