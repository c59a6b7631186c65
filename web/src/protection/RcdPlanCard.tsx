import type { RcdPlan } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";

/** An architecture: what it takes and costs, what goes dark with each device, and how sure it is that nothing is better. */
export function RcdPlanCard({ plan, onTake }: { plan: RcdPlan; onTake: () => void }) {
  const tight = Math.min(...plan.groups.map((group) => group.margin_ma));
  return (
    <article
      className="flex flex-col gap-2 rounded-xl border border-line bg-sheet p-3"
      aria-label={say(plan.title)}
      data-architecture={plan.architecture}
    >
      <header className="flex items-start justify-between gap-2">
        <h2 className="font-semibold">{say(plan.title)}</h2>
        {plan.job && (
          <Button variant="strong" onClick={onTake}>
            {t("web.rcd_plans.apply")}
          </Button>
        )}
      </header>
      {plan.not_possible ? (
        <p className="text-[13px] text-missing">
          {t("web.common.not_possible", { reason: say(plan.not_possible) })}
        </p>
      ) : (
        <>
          <dl className="grid grid-cols-5 gap-2 text-[12px]">
            <Figure name={t("web.rcd_plans.head.loss")} value={String(plan.worst_loss)} />
            <Figure name="devices" value={String(plan.devices)} />
            <Figure name="modules" value={String(plan.modules)} />
            <Figure name="cost" value={plan.cost.toFixed(0)} />
            <Figure
              name={t("web.rcd_plans.head.leakage")}
              value={t("web.rcd_plans.leakage_value", { tight: (Math.floor(tight * 10) / 10).toFixed(1) })}
            />
          </dl>
          <ul className="flex flex-col gap-1 text-[12.5px]">
            {plan.groups.map((group) => (
              <li key={group.name} className="flex gap-2">
                <Bar darkness={group.loss_score} most={plan.worst_loss} />
                <span className="min-w-0">
                  <b className="font-medium">{group.name}</b>,{" "}
                  <span className="figure text-soft">{group.rating_a} A</span>
                  {group.shared && <>: {group.circuits_lost.join(", ")}</>}
                </span>
              </li>
            ))}
            {plan.ahead.length > 0 && (
              <li className="text-soft">{t("web.rcd_plans.upstream", { list: plan.ahead.join(", ") })}</li>
            )}
          </ul>
          {plan.assumed_required.length > 0 && (
            <p className="text-[12px] text-missing">
              {t("web.rcd_plans.assumed", { list: plan.assumed_required.join(", ") })}
            </p>
          )}
          <p className="mt-auto text-[12px] text-soft">
            {plan.proven
              ? t("web.rcd_plans.proven")
              : t("web.rcd_plans.gap", { gap: plan.gap_pct.toFixed(1) })}{" "}
            {`${(plan.seconds * 1000).toFixed(0)} ms`}
          </p>
        </>
      )}
    </article>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <div className="flex flex-col">
      <dt className="text-soft">{name}</dt>
      <dd className="figure m-0 text-[15px] font-semibold">{value}</dd>
    </div>
  );
}

/** How much goes dark, against the worst of the plan. */
function Bar({ darkness, most }: { darkness: number; most: number }) {
  return (
    <span
      className="mt-1.5 h-2 w-10 shrink-0 rounded-sm bg-line"
      role="img"
      aria-label={t("web.rcd_plans.score", { score: darkness })}
    >
      <span
        className="block h-full rounded-sm bg-ink"
        style={{ width: `${Math.max(6, (100 * darkness) / Math.max(1, most))}%` }}
      />
    </span>
  );
}
