import { memo } from "react";
import type { Circuit, Finding } from "../api/client";
import { cx } from "../ui/cx";
import { Gauge } from "./Gauge";
import { spoken } from "./latticeModel";

const FIGURE: Record<Finding["verdict"], string> = {
  pass: "text-ink",
  tight: "text-tight font-semibold",
  fail: "text-fail font-bold",
  advice: "text-advice font-semibold",
  missing: "text-missing",
  "not-applicable": "text-soft",
};

type Props = {
  circuit: Circuit;
  title: string;
  finding: Finding | undefined;
  chosen: boolean;
  crossed: boolean;
  onChoose: () => void;
  row: number;
  column: number;
};

/** A crossing of circuit and check: the figure, its limit, and what is in hand. */
export const CheckCell = memo(function CheckCell({
  circuit,
  title,
  finding,
  chosen,
  crossed,
  onChoose,
  row,
  column,
}: Props) {
  const verdict = finding?.verdict ?? "not-applicable";
  return (
    <div
      role="gridcell"
      tabIndex={chosen ? 0 : -1}
      aria-label={spoken(circuit, title, finding)}
      aria-selected={chosen}
      data-row={row}
      data-column={column}
      data-verdict={verdict}
      onClick={onChoose}
      onKeyDown={() => undefined}
      className={cx(
        "flex cursor-pointer flex-col justify-center border-l border-line px-1.5",
        verdict === "fail" ? "bg-fail/12" : crossed && "bg-wash/60",
        chosen && "relative z-10 bg-sheet outline-2 outline-accent",
      )}
    >
      <CellFigure finding={finding} />
      {verdict !== "not-applicable" && <Gauge verdict={verdict} margin={finding?.margin} />}
    </div>
  );
});

/** The figure and its limit as they are written in a cell. */
export function CellFigure({ finding }: { finding: Finding | undefined }) {
  const verdict = finding?.verdict ?? "not-applicable";
  if (verdict === "not-applicable") return <span className="text-center text-soft">–</span>;
  if (verdict === "missing")
    return <span className="figure text-[12px] leading-[14px] text-missing">? needs input</span>;
  return (
    <span className="figure flex items-baseline justify-between gap-1 text-[12px] leading-[14px]">
      <span className={FIGURE[verdict]}>{finding?.shown_value}</span>
      <span className="text-[11px] text-soft">{finding?.shown_limit}</span>
    </span>
  );
}
