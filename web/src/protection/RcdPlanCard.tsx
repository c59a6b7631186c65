import type { Board, RcdPlan } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { PlanStrip } from "./PlanStrip";
import type { largest } from "./planModel";

type Props = {
  plan: RcdPlan;
  board: Board;
  most: ReturnType<typeof largest>;
  onTake: () => void;
};

/** An architecture on the board: what loses supply with each device, what it costs and takes, and how sure it is that nothing is better. */
export function RcdPlanCard({ plan, board, most, onTake }: Props) {
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
          <PlanStrip plan={plan} board={board} />
          <Bars plan={plan} most={most} />
          <Groups plan={plan} />
          {plan.assumed_required.length > 0 && (
            <p className="text-[12px] text-missing">
              {t("web.rcd_plans.assumed", { list: plan.assumed_required.join(", ") })}
            </p>
          )}
          <p className="mt-auto text-[12px] text-soft">
            {plan.proven
              ? t("web.rcd_plans.proven")
              : t("web.rcd_plans.gap", { gap: plan.gap_pct.toFixed(1) })}
          </p>
        </>
      )}
    </article>
  );
}

/** The plan's values against the largest of all plans: the shorter the bar, the better. */
function Bars({ plan, most }: Pick<Props, "plan" | "most">) {
  const tight = Math.min(...plan.groups.map((group) => group.margin_ma));
  return (
    <dl className="grid grid-cols-[auto_1fr_auto] items-center gap-x-2 gap-y-0.5 text-[12px]">
      <Bar name={t("web.rcd_plans.head.loss")} value={plan.worst_loss} most={most.worst_loss} />
      <Bar name={t("web.rcd_plans.head.cost")} value={plan.cost} most={most.cost} digits={0} />
      <Bar name={t("web.rcd_plans.head.ways")} value={plan.modules} most={most.modules} />
      {plan.groups.length > 0 && (
        <>
          <dt className="text-soft">{t("web.rcd_plans.head.leakage")}</dt>
          <dd className="figure col-span-2 m-0 text-right font-semibold">
            {t("web.rcd_plans.leakage_value", { tight: (Math.floor(tight * 10) / 10).toFixed(1) })}
          </dd>
        </>
      )}
    </dl>
  );
}

function Bar({ name, value, most, digits }: { name: string; value: number; most: number; digits?: number }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd className="m-0 h-2 rounded-sm bg-line" aria-hidden="true">
        <span className="block h-full rounded-sm bg-ink" style={{ width: `${(100 * value) / most}%` }} />
      </dd>
      <dd className="figure m-0 min-w-10 text-right font-semibold">
        {digits === undefined ? value : value.toFixed(digits)}
      </dd>
    </>
  );
}

/** What loses supply with each device. */
function Groups({ plan }: Pick<Props, "plan">) {
  const own = plan.groups.filter((group) => !group.shared);
  return (
    <ul className="flex flex-col gap-0.5 text-[12.5px]">
      {plan.groups
        .filter((group) => group.shared)
        .map((group, at) => (
          <li key={group.name}>
            <b className="figure font-semibold">{String.fromCharCode(65 + at)}</b> {group.name},{" "}
            <span className="figure text-soft">{group.rating_a} A</span>: {group.circuits_lost.join(", ")}
          </li>
        ))}
      {own.length > 0 && (
        <li>
          <b className="figure font-semibold">•</b> {own.map((group) => group.name).join(", ")}
        </li>
      )}
      {plan.ahead.length > 0 && (
        <li className="text-soft">{t("web.rcd_plans.upstream", { list: plan.ahead.join(", ") })}</li>
      )}
    </ul>
  );
}
