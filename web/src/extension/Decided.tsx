import type { ExtensionDecision } from "../api/client";
import { useJob } from "../job/JobContext";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";

const SIGN = { true: "✓", false: "✗", null: "?" } as const;
const LOOK = { true: "text-pass", false: "text-fail", null: "text-missing" } as const;

/** The decision with its reasons, what the point does to the circuit, and in which order it is done and tested. */
export function Decided({ decision }: { decision: ExtensionDecision }) {
  const { document, edit, rules } = useJob();
  const state = String(decision.allowed ?? null) as keyof typeof SIGN;
  const titles = new Map(rules.checks.map((check) => [check.id, check.title]));
  return (
    <div className="mt-2 grid gap-x-6 gap-y-2 md:grid-cols-2" data-testid="decision" data-allowed={state}>
      <div>
        <p className={`font-semibold ${LOOK[state]}`}>
          {SIGN[state]}{" "}
          {t(
            state === "true"
              ? "web.extension.allowed"
              : state === "false"
                ? "web.extension.refused"
                : "web.extension.open",
          )}
        </p>
        <ul>
          {decision.reasons.map((each) => (
            <li key={say(each)}>{say(each)}</li>
          ))}
        </ul>
        {decision.instead.length > 0 && (
          <>
            <p className="mt-1 font-semibold">{t("web.extension.instead")}</p>
            <ul className="list-disc pl-5">
              {decision.instead.map((each) => (
                <li key={say(each)}>{say(each)}</li>
              ))}
            </ul>
          </>
        )}
        {decision.effects.length > 0 && (
          <table className="mt-2 text-[12.5px]">
            <thead>
              <tr className="text-left text-soft">
                <th className="pr-3 font-medium">{t("web.extension.check")}</th>
                <th className="pr-3 font-medium">{t("web.extension.before")}</th>
                <th className="pr-3 font-medium">{t("web.extension.now")}</th>
                <th className="font-medium">{t("web.extension.limit")}</th>
              </tr>
            </thead>
            <tbody>
              {decision.effects.map((effect) => (
                <tr key={effect.check} data-effect={effect.check} data-now={effect.now}>
                  <td className="pr-3">{say(titles.get(effect.check) ?? effect.check)}</td>
                  <td className="figure pr-3">{shown(effect.value_before)}</td>
                  <td className={`figure pr-3 ${effect.now === "fail" ? "text-fail" : ""}`}>
                    {shown(effect.value_now)}
                  </td>
                  <td className="figure">
                    {shown(effect.limit)} {effect.unit}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <p className="mt-1 text-[12px] text-soft">{decision.source.publication}</p>
        {decision.allowed === true && decision.job && (
          <Button
            variant="strong"
            className="mt-1"
            onClick={() => decision.job && edit(decision.job, document)}
          >
            {t("web.extension.add")}
          </Button>
        )}
      </div>
      {decision.steps.length > 0 && (
        <div>
          <p className="font-semibold">{t("web.extension.steps")}</p>
          <ol className="list-decimal pl-5">
            {decision.steps.map((each) => (
              <li key={say(each)}>{say(each)}</li>
            ))}
          </ol>
          {decision.tests.length > 0 && (
            <>
              <p className="mt-1 font-semibold">{t("web.extension.tests")}</p>
              <ul className="list-disc pl-5">
                {decision.tests.map((each) => (
                  <li key={say(each)}>{say(each)}</li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
    </div>
  );
}

const shown = (value: number | null | undefined) =>
  value === null || value === undefined ? "–" : String(Number(value.toPrecision(3)));
