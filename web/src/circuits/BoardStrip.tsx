import type { Board, Finding } from "../api/client";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { cellKey, deviceText, type Row, worstVerdict } from "./gridModel";

const MODULE = 23;

type Props = {
  board: Board;
  rows: Row[];
  checks: string[];
  found: Map<string, Finding>;
  chosen: string | undefined;
  lit: string | undefined;
  onChoose: (circuit: string) => void;
  onLight: (circuit: string | undefined) => void;
};

const MARK: Record<string, string> = { fail: "▲", tight: "‖", advice: "◇", missing: "?" };
const MARK_LOOK: Record<string, string> = {
  fail: "text-fail",
  tight: "text-tight",
  advice: "text-advice",
  missing: "text-missing",
};

/** A board as it will stand: every way in its place, bound to its row. */
export function BoardStrip({ board, rows, checks, found, chosen, lit, onChoose, onLight }: Props) {
  const byWay = new Map(rows.map((row) => [row.way, row]));
  return (
    <section aria-label={t("web.circuits.strip.label", { board: board.name })} className="shrink-0">
      <h2 className="mb-0.5 text-[12px] font-semibold">
        {board.name}{" "}
        <span className="font-normal text-soft">
          {t("web.circuits.strip.used", { n: rows.length, total: board.way_count })}
        </span>
      </h2>
      <div className="relative flex items-stretch">
        <div className="absolute inset-x-0 top-1/2 h-1 -translate-y-1/2 bg-line" />
        <div
          className="figure relative mr-0.5 flex h-[54px] flex-col items-center justify-center rounded-sm border border-line bg-ground text-[11px] leading-tight"
          style={{ width: MODULE * 2 }}
        >
          <span>
            {board.main_switch
              ? t("web.setup.path.cutout_rating", { rating_a: board.main_switch.rating_a })
              : "–"}
          </span>
          <span className="text-soft">{t("web.circuits.strip.main")}</span>
        </div>
        {Array.from({ length: board.way_count }, (_, at) => at + 1).map((way) => {
          const row = byWay.get(way);
          if (!row) {
            return (
              <div
                key={way}
                className="relative h-[54px] border border-dashed border-line"
                style={{ width: MODULE }}
                title={t("web.circuits.strip.free", { n: way })}
              />
            );
          }
          const { circuit } = row;
          const verdict = worstVerdict(
            checks.map((check) => found.get(cellKey({ check, circuit: circuit.id }))),
          );
          const on = circuit.id === chosen || circuit.id === lit;
          return (
            <button
              key={way}
              type="button"
              tabIndex={-1}
              data-way={`${board.id} ${way}`}
              title={`${way}  ${circuit.name}`}
              style={{ width: MODULE }}
              className={cx(
                "figure relative flex h-[54px] flex-col items-center justify-between border bg-sheet py-0.5 text-[10px] leading-tight",
                on ? "z-10 border-accent outline outline-accent" : "border-line",
              )}
              onClick={() => onChoose(circuit.id)}
              onMouseEnter={() => onLight(circuit.id)}
              onMouseLeave={() => onLight(undefined)}
            >
              <span className="sr-only">
                {t("web.circuits.strip.way_label", {
                  n: way,
                  circuit: circuit.name,
                  device: deviceText(circuit),
                })}
              </span>
              <span aria-hidden="true" className="tracking-tighter">
                {deviceText(circuit)}
              </span>
              <span className={cx("text-[11px] leading-none", MARK_LOOK[verdict])} aria-hidden="true">
                {MARK[verdict] ?? <span className="block h-2.5 w-1.5 bg-ink/70" />}
              </span>
              <span aria-hidden="true" className="text-soft">
                {way}
              </span>
            </button>
          );
        })}
      </div>
    </section>
  );
}
