import type { TestingView } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { CheckBox } from "../ui/CheckBox";
import { wallClock, withIsolation } from "./testModel";

/** Safe isolation, step by step: each is ticked with the time, and one that is left out closes the next. */
export function IsolationSteps({ plan, by }: { plan: TestingView["plan"]; by: string }) {
  const { document, edit } = useJob();
  const done = new Map((document.testing?.isolation ?? []).map((each) => [each.step, each]));
  const next = plan.isolation.find((step) => !done.has(step.number))?.number;
  return (
    <details className="mb-3 rounded-lg border border-line bg-sheet px-3 py-2" open={done.size === 0}>
      <summary className="cursor-pointer text-[14px] font-semibold">
        {t("web.testing.isolation")}{" "}
        <span className="figure font-normal text-soft">
          {t("web.testing.progress", { done: String(done.size), all: String(plan.isolation.length) })}
        </span>
      </summary>
      <ol className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {plan.isolation.map((step) => {
          const tick = done.get(step.number);
          const id = `isolation-${step.number}`;
          return (
            <li key={step.number} className="flex items-start gap-2 text-[13px]">
              <span className="pt-0.5">
                <CheckBox
                  id={id}
                  checked={Boolean(tick)}
                  disabled={!tick && step.number !== next}
                  onChange={(checked) =>
                    edit(withIsolation(document, step.number, checked ? wallClock(new Date()) : null, by))
                  }
                />
              </span>
              <label htmlFor={id} className={tick || step.number === next ? "" : "text-soft"}>
                <span className="figure text-soft">{step.number}</span> {step.text}
                {tick && <span className="figure ml-2 text-soft">{tick.at.slice(11, 16)}</span>}
              </label>
            </li>
          );
        })}
      </ol>
      {plan.stays_live.length > 0 && (
        <p className="mt-2 text-[13px]">
          <b className="font-semibold">{t("web.testing.stays_live")}</b>{" "}
          {plan.stays_live.map((part) => say(part)).join("; ")}
        </p>
      )}
    </details>
  );
}
