import { scaleLinear, scalePoint } from "d3-scale";
import { line } from "d3-shape";
import type { CircuitFigures, PathPoint } from "../api/client";
import { t } from "../messages/text";

const WIDTH = 940;
const HEIGHT = 66;
const INSET = 96;

/** The way from the origin to the far end of the row in hand: voltage falling, loop growing. */
export function CircuitPathPlot({ figures }: { figures: CircuitFigures | undefined }) {
  if (!figures?.path.length) return <div className="h-[66px]" />;
  const points = figures.path;
  const x = scalePoint<number>()
    .domain(points.map((_, at) => at))
    .range([INSET, WIDTH - INSET]);
  const y = scaleLinear()
    .domain([0, Math.max(figures.drop_limit_pct, ...points.map((point) => point.drop_pct ?? 0))])
    .range([27, 43]);
  // A point whose drop is not known stands level with the last one that is, outside the drawn line.
  const known = (index: number) =>
    points.slice(0, index + 1).findLast((point) => point.drop_pct !== null)?.drop_pct ?? 0;
  const at = (_: PathPoint, index: number): [number, number] => [x(index) ?? 0, y(known(index))];
  const falling = line<PathPoint>(
    (point, index) => at(point, index)[0],
    (point, index) => at(point, index)[1],
  ).defined((point) => point.drop_pct !== null);
  const drawn = falling(points) ?? "";
  return (
    <figure className="max-md:hidden">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-[66px] w-full"
        role="img"
        aria-label={pathSentence(points)}
      >
        <line
          x1={INSET}
          x2={WIDTH - INSET}
          y1={y(figures.drop_limit_pct)}
          y2={y(figures.drop_limit_pct)}
          className="stroke-line"
          strokeDasharray="4 4"
        />
        <text
          x={WIDTH - INSET + 8}
          y={y(figures.drop_limit_pct) + 4}
          className="figure fill-soft text-[11px]"
        >
          {t("web.circuits.path.limit", { percent: figures.drop_limit_pct ?? "" })}
        </text>
        <path d={drawn} className="fill-none stroke-accent" strokeWidth="2" />
        {points.map((point, index) => {
          const [left, top] = at(point, index);
          // The first and last labels hang on the edges, so that a long name is not cut off by them.
          const [anchor, written] =
            index === 0
              ? (["start", 4] as const)
              : index === points.length - 1
                ? (["end", WIDTH - 4] as const)
                : (["middle", left] as const);
          return (
            <g key={`${point.label}${index}`} textAnchor={anchor}>
              <circle
                cx={left}
                cy={top}
                r="4"
                className="fill-sheet stroke-accent"
                strokeWidth="2"
                strokeDasharray={point.drop_pct === null ? "2 2" : undefined}
              />
              <text x={written} y="13" className="fill-ink text-[12px] font-medium">
                {shortened(point.label)}
                <tspan className="fill-soft font-normal"> {point.detail}</tspan>
              </text>
              <text x={written} y="61" className="figure fill-soft text-[11px]">
                {figuresOf(point, points).join(" · ")}
              </text>
            </g>
          );
        })}
      </svg>
    </figure>
  );
}

const shortened = (text: string) => (text.length > 30 ? `${text.slice(0, 29)}…` : text);

/** The figures of a point, without those that are known of no point: not every standard goes by the loop. */
function figuresOf(point: PathPoint, points: PathPoint[]): string[] {
  return [
    points.some((each) => each.drop_pct !== null) && `${point.shown_drop} %`,
    points.some((each) => each.loop_ohm !== null) && `${point.shown_loop} Ω`,
    points.some((each) => each.largest_ka !== null) && `${point.shown_largest} kA`,
  ].filter((text) => text !== false);
}

function pathSentence(points: PathPoint[]): string {
  return t("web.circuits.path.spoken", {
    points: points
      .map((p) =>
        t("web.circuits.path.point", {
          place: p.label,
          drop: p.shown_drop,
          loop: p.shown_loop,
          largest: p.shown_largest,
        }),
      )
      .join("; "),
  });
}
