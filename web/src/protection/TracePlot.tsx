import { scaleLinear } from "d3-scale";
import type { RelayRun, VoltageRelay } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";

const WIDTH = 760;
const HEIGHT = 190;
const LEFT = 44;

/** The voltage over time with the thresholds, and the spans in which the relay is open. */
export function TracePlot({ run, relay }: { run: RelayRun; relay: VoltageRelay }) {
  const volts = run.samples.map((sample) => sample.volts);
  const low = Math.min(...volts, relay.under_v) - 10;
  const high = Math.max(...volts, relay.over_v) + 10;
  const x = scaleLinear()
    .domain([0, run.until_s])
    .range([LEFT, WIDTH - 8]);
  const y = scaleLinear()
    .domain([low, high])
    .range([HEIGHT - 22, 8]);
  const steps = run.samples.flatMap((sample, at) => {
    const end = run.samples[at + 1]?.at_s ?? run.until_s;
    return [`${x(sample.at_s)},${y(sample.volts)}`, `${x(end)},${y(sample.volts)}`];
  });
  const open = run.switchings.flatMap((switching, at) =>
    switching.opens ? [{ from: switching.at_s, to: run.switchings[at + 1]?.at_s ?? run.until_s }] : [],
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-auto w-full"
      role="img"
      aria-label={t("web.relay.spoken", {
        trace: say(run.title),
        n: run.open_s.toFixed(1),
        total: run.until_s.toFixed(0),
      })}
    >
      {open.map((span) => (
        <g key={span.from}>
          <rect
            x={x(span.from)}
            y={8}
            width={Math.max(1, x(span.to) - x(span.from))}
            height={HEIGHT - 30}
            fill="var(--fail)"
            opacity={0.14}
          />
          <text x={x(span.from) + 4} y={HEIGHT - 28} fontSize="11" fill="var(--fail)">
            {t("web.relay.plot.open")}
          </text>
        </g>
      ))}
      {[
        { volts: relay.over_v, label: "above" },
        { volts: relay.under_v, label: "below" },
      ].map((threshold) => (
        <g key={threshold.label}>
          <line
            x1={LEFT}
            x2={WIDTH - 8}
            y1={y(threshold.volts)}
            y2={y(threshold.volts)}
            stroke="var(--tight)"
            strokeDasharray="5 4"
          />
          <text x={LEFT - 4} y={y(threshold.volts) + 4} fontSize="11" textAnchor="end" fill="var(--tight)">
            {threshold.volts} V
          </text>
        </g>
      ))}
      <polyline points={steps.join(" ")} fill="none" stroke="var(--accent)" strokeWidth="2" />
      {x.ticks(8).map((tick) => (
        <text key={tick} x={x(tick)} y={HEIGHT - 6} fontSize="11" textAnchor="middle" fill="var(--soft)">
          {tick} s
        </text>
      ))}
    </svg>
  );
}
