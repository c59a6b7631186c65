import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useState } from "react";
import { type Circuit, client, type WhatIf, type WhatIfRange } from "../api/client";
import { rangesQuery, whatIfQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { useAnsweredEdit } from "../job/useAnsweredEdit";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { cx } from "../ui/cx";
import { FIGURE } from "./CheckCell";
import { verdictWord } from "./gridModel";

const WIDTH = 280;
const HEIGHT = 96;

/** What if one figure of the circuit were another: a slider, what each check then has in hand, and where it gives way. */
export function WhatIfPanel({ circuit }: { circuit: Circuit }) {
  const [open, setOpen] = useState(false);
  return (
    <section
      aria-label={t("web.circuits.what_if.section")}
      data-testid="what-if"
      className="border-t border-line pt-2"
    >
      <Button variant="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        {t("web.circuits.what_if.title")}
      </Button>
      {open && <Moved circuit={circuit} key={circuit.id} />}
    </section>
  );
}

function Moved({ circuit }: { circuit: Circuit }) {
  const { document, version, settled } = useJob();
  const ranges = useQuery(rangesQuery(document, version, circuit.id, settled));
  const [quantity, setQuantity] = useState<WhatIfRange["quantity"]>("length");
  const known = ranges.data?.some((range) => range.quantity === quantity);
  const chosen = known ? quantity : ranges.data?.[0]?.quantity;
  const answer = useQuery(
    whatIfQuery(document, version, circuit.id, chosen ?? "length", settled && Boolean(chosen)),
  );
  return (
    <div className="mt-1 flex flex-col gap-2">
      <div role="radiogroup" aria-label={t("web.circuits.what_if.quantity")} className="flex flex-wrap gap-1">
        {ranges.data?.map((range) => (
          <button
            key={range.quantity}
            type="button"
            role="radio"
            aria-checked={range.quantity === chosen}
            className="rounded-md border border-line px-2 py-0.5 text-[12px] aria-checked:border-accent aria-checked:bg-wash"
            onClick={() => setQuantity(range.quantity)}
          >
            {say(range.title)}
          </button>
        ))}
      </div>
      {answer.data && <Slider key={`${chosen}${version}`} found={answer.data} circuit={circuit} />}
      {answer.isPending && <p className="text-[12px] text-soft">{t("web.circuits.what_if.calculating")}</p>}
    </div>
  );
}

function Slider({ found, circuit }: { found: WhatIf; circuit: Circuit }) {
  const { document } = useJob();
  const answeredEdit = useAnsweredEdit();
  const { range, values, curves } = found;
  const start = values.findIndex((value) => Math.abs(value - range.now) < 1e-3);
  const [at, setAt] = useState(Math.max(0, start));
  const value = values[at] ?? range.now;
  const shown = `${Number(value.toFixed(2))} ${range.unit}`.trim();
  const take = async () => {
    const body = { document, circuit: circuit.id, quantity: range.quantity, value };
    await answeredEdit(client.POST("/api/what-if/apply", { body }));
  };
  return (
    <div className="flex flex-col gap-1">
      <p className="flex items-baseline justify-between gap-2 text-[13px]">
        <span>
          {say(range.title)} <b className="figure">{shown}</b>
        </span>
        <span className="figure text-[12px] text-soft">
          {t("web.circuits.what_if.now", { value: Number(range.now.toFixed(2)), unit: range.unit })}
        </span>
      </p>
      <input
        type="range"
        aria-label={say(range.title)}
        aria-valuetext={shown}
        min={0}
        max={values.length - 1}
        value={at}
        onChange={(event) => setAt(Number(event.target.value))}
        className="w-full accent-accent"
      />
      <Curves found={found} at={at} />
      <ul className="figure flex flex-col text-[12px]">
        {curves.map((curve) => {
          const point = curve.points[at];
          return (
            <li key={curve.check} className="grid grid-cols-[1fr_4rem_6.5rem] border-t border-line py-0.5">
              <span className="truncate font-sans">{say(curve.title)}</span>
              <span className={cx("text-right", FIGURE[point?.verdict ?? "not-applicable"])}>
                {point?.shown}
              </span>
              <span className="text-right text-soft">
                {curve.breaks_at !== null
                  ? t("web.circuits.what_if.up_to", { value: `${curve.breaks_at} ${range.unit}` })
                  : curve.verdict === "pass" || curve.verdict === "tight"
                    ? t("web.circuits.what_if.passes")
                    : verdictWord(curve.verdict)}
              </span>
            </li>
          );
        })}
      </ul>
      <p className="text-[12px] text-soft">
        {found.first
          ? t("web.circuits.what_if.first", { check: say(found.first) })
          : t("web.circuits.what_if.none")}
      </p>
      {at !== start && range.quantity !== "ze" && (
        <Button onClick={() => void take()}>{t("web.circuits.what_if.apply", { value: shown })}</Button>
      )}
    </div>
  );
}

/** What each check has in hand along the range; the limit is the middle line. */
function Curves({ found, at }: { found: WhatIf; at: number }) {
  const { range, values, curves } = found;
  const x = scaleLinear()
    .domain([range.low, range.high])
    .range([4, WIDTH - 4]);
  const y = scaleLinear()
    .domain([1, -0.5])
    .range([4, HEIGHT - 4])
    .clamp(true);
  const drawn = line<number | null>(
    (_, index) => x(values[index] ?? 0),
    (margin) => y(margin ?? 0),
  ).defined((margin) => margin !== null);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full rounded-md bg-ground"
      role="img"
      aria-label={t("web.circuits.what_if.chart", {
        quantity: say(range.title).toLowerCase(),
        first: say(found.first) || t("web.circuits.what_if.chart_none"),
      })}
    >
      <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} className="stroke-fail" strokeDasharray="4 3" />
      {curves.map((curve) => (
        <path
          key={curve.check}
          d={drawn(curve.points.map((point) => point.margin)) ?? ""}
          className={cx("fill-none", curve.title === found.first ? "stroke-accent" : "stroke-pass")}
          strokeWidth={curve.title === found.first ? 2 : 1}
        />
      ))}
      <line x1={x(values[at] ?? 0)} x2={x(values[at] ?? 0)} y1={0} y2={HEIGHT} className="stroke-accent" />
      <line
        x1={x(range.now)}
        x2={x(range.now)}
        y1={0}
        y2={HEIGHT}
        className="stroke-soft"
        strokeDasharray="2 3"
      />
    </svg>
  );
}
