import { line } from "d3-shape";
import { useId, useMemo } from "react";
import type { BandPoints } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import {
  AMPS,
  ampsText,
  decades,
  edgeOf,
  outline,
  type Point,
  SECONDS,
  scales,
  secondsText,
} from "./bandModel";

/** Each band has a colour and a dash of its own, so that colour is never alone. */
const LOOKS = [
  { colour: "var(--pass)", dash: "" },
  { colour: "var(--accent)", dash: "6 3" },
  { colour: "var(--tight)", dash: "2 3" },
  { colour: "var(--advice)", dash: "8 3 2 3" },
  { colour: "var(--fail)", dash: "1 4" },
] as const;
const MARGIN = { left: 52, bottom: 24, top: 8 };

type Flow = { least: number; most: number; label: string };

/** Characteristics as bands on double logarithmic paper, the source's first, with what flows through them. */
export function BandPlot({
  bands,
  flow,
  width = 460,
  height = 340,
}: {
  bands: readonly BandPoints[];
  flow?: Flow;
  width?: number;
  height?: number;
}) {
  const id = useId();
  const { x, y } = useMemo(() => scales(width, height, MARGIN), [width, height]);
  const path = line<Point>()
    .x(([amps]) => x(Math.max(amps, AMPS[0])))
    .y(([, time]) => y(Math.max(time, SECONDS[0])));
  const named = bands.map((band) => say(band.name)).join(", ");
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="h-auto w-full max-w-[38rem]"
        role="img"
        aria-labelledby={id}
        data-testid="band-plot"
      >
        <title id={id}>
          {t("web.curves.title", { devices: named || t("web.curves.no_device") })}
          {flow ? `; ${flow.label}` : ""}
        </title>
        {decades(AMPS).map((amps) => (
          <g key={amps}>
            <line
              x1={x(amps)}
              x2={x(amps)}
              y1={MARGIN.top}
              y2={height - MARGIN.bottom}
              stroke="var(--line)"
            />
            <text x={x(amps)} y={height - 8} fontSize="11" textAnchor="middle" fill="var(--soft)">
              {ampsText(amps)}
            </text>
          </g>
        ))}
        {decades(SECONDS).map((seconds) => (
          <g key={seconds}>
            <line x1={MARGIN.left} x2={width - 6} y1={y(seconds)} y2={y(seconds)} stroke="var(--line)" />
            <text x={MARGIN.left - 5} y={y(seconds) + 4} fontSize="11" textAnchor="end" fill="var(--soft)">
              {secondsText(seconds)}
            </text>
          </g>
        ))}
        {bands.map((band, at) => {
          const look = LOOKS[at % LOOKS.length] ?? LOOKS[0];
          return (
            <g key={band.device}>
              <path d={`${path(outline(band)) ?? ""}Z`} fill={look.colour} opacity={0.16} />
              {[band.lower, band.upper].map((edge, which) => (
                <path
                  key={which === 0 ? "quick" : "slow"}
                  d={path(edgeOf(edge)) ?? ""}
                  fill="none"
                  stroke={look.colour}
                  strokeWidth={1.6}
                  strokeDasharray={look.dash}
                />
              ))}
            </g>
          );
        })}
        {flow && flow.most > AMPS[0] && (
          <g data-testid="flow">
            <rect
              x={x(Math.max(flow.least, AMPS[0]))}
              y={MARGIN.top}
              width={Math.max(2, x(flow.most) - x(Math.max(flow.least, AMPS[0])))}
              height={height - MARGIN.top - MARGIN.bottom}
              fill="var(--fail)"
              opacity={0.35}
            />
            <text
              x={Math.min(x(flow.most) + 4, width - 90)}
              y={MARGIN.top + 12}
              fontSize="12"
              fontWeight={600}
              fill="var(--fail)"
            >
              {flow.label}
            </text>
          </g>
        )}
      </svg>
      <figcaption className="flex flex-wrap gap-x-4 gap-y-1 text-[12px] text-soft">
        {bands.map((band, at) => {
          const look = LOOKS[at % LOOKS.length] ?? LOOKS[0];
          return (
            <span key={band.device} className="flex items-center gap-1.5">
              <svg width="26" height="10" aria-hidden="true">
                <line
                  x1="0"
                  x2="26"
                  y1="5"
                  y2="5"
                  stroke={look.colour}
                  strokeWidth="2.5"
                  strokeDasharray={look.dash}
                />
              </svg>
              {say(band.name)}
            </span>
          );
        })}
      </figcaption>
    </figure>
  );
}
