import type { Board, RcdPlan } from "../api/client";
import { useJob } from "../job/JobContext";
import { circuitById } from "../job/jobModel";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { letterOf, waysOf } from "./planModel";

/** Shared devices in turn; each has its letter as well. None has the colour of a verdict. */
const LOOK = [
  "border-transparent bg-accent text-accent-ink",
  "border-transparent bg-ink text-sheet",
  "border-accent bg-wash text-accent",
  "border-transparent bg-soft text-sheet",
];

/** The ways of the board in a plan: one letter and colour a shared device, a dot for an own one, nothing where there is none. */
export function PlanStrip({ plan, board }: { plan: RcdPlan; board: Board }) {
  const { document } = useJob();
  return (
    <ol className="flex flex-wrap gap-px" aria-label={t("web.rcd_plans.strip", { board: board.name })}>
      {waysOf(plan, board).map(({ way, circuit, group }) => {
        const name = circuitById(document, circuit)?.name ?? circuit;
        const behind =
          group === "own"
            ? t("web.rcd_plans.own")
            : group === "none"
              ? t("web.rcd_plans.no_device")
              : t("web.rcd_plans.shared", { letter: letterOf(group) });
        return (
          <li
            key={way}
            title={`${way} ${name}: ${behind}`}
            className={cx(
              "figure flex h-9 w-[18px] flex-col items-center justify-center rounded-[3px] border text-[11px] leading-tight",
              typeof group === "number"
                ? LOOK[group % LOOK.length]
                : group === "own"
                  ? "border-ink bg-sheet"
                  : "border-dashed border-line text-soft",
            )}
          >
            <span className="sr-only">{`${way} ${name}: ${behind}`}</span>
            <span aria-hidden="true">
              {typeof group === "number" ? letterOf(group) : group === "own" ? "•" : ""}
            </span>
            <span aria-hidden="true" className="text-[9.5px]">
              {way}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
