import type { Circuit, Finding } from "../api/client";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { Gauge } from "./Gauge";
import { accessibleText, restsOnAssumed, shownVerdict } from "./gridModel";

/** How a figure is written by its verdict. */
export const FIGURE: Record<Finding["verdict"], string> = {
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
export function CheckCell({ circuit, title, finding, chosen, crossed, onChoose, row, column }: Props) {
  const verdict = finding?.verdict ?? "not-applicable";
  return (
    <div
      role="gridcell"
      tabIndex={chosen ? 0 : -1}
      aria-selected={chosen}
      data-row={row}
      data-column={column}
      data-verdict={verdict}
      onClick={onChoose}
      onKeyDown={() => undefined}
      className={cx(
        "relative flex cursor-pointer flex-col justify-center border-l border-line px-1",
        verdict === "fail" ? "bg-fail/12" : crossed && "bg-wash/60",
        chosen && "z-10 bg-sheet outline-2 outline-accent",
      )}
    >
      <CellContent circuit={circuit} title={title} finding={finding} />
    </div>
  );
}

/** A finding as it is seen in a cell, and as a sentence for those who hear it. */
export function CellContent({ circuit, title, finding }: Pick<Props, "circuit" | "title" | "finding">) {
  return (
    <>
      <span className="sr-only">{accessibleText(circuit, title, finding)}</span>
      <span aria-hidden="true">
        <CellFigure finding={finding} />
        {finding && finding.verdict !== "not-applicable" && (
          <Gauge
            verdict={finding.verdict}
            margin={finding.margin}
            assumed={restsOnAssumed(finding)}
            accepted={Boolean(finding.accepted)}
          />
        )}
      </span>
    </>
  );
}

/** The figure and its limit as they are written in a cell. */
function CellFigure({ finding }: { finding: Finding | undefined }) {
  const verdict = finding?.verdict ?? "not-applicable";
  if (verdict === "not-applicable") return <span className="block text-center text-soft">–</span>;
  if (verdict === "missing")
    return (
      <span className="figure block text-[12px] leading-[14px] text-missing">
        {t("web.circuits.cell.missing")}
      </span>
    );
  return (
    <span className="figure flex items-baseline justify-between gap-0.5 text-[12px] leading-[14px] tracking-[-0.03em]">
      <span className={FIGURE[shownVerdict(finding)]}>{finding?.shown_value}</span>
      <span className="text-[11px] text-soft">{finding?.shown_limit}</span>
    </span>
  );
}
