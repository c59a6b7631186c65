import type { DrillRow } from "../api/client";
import { t } from "../messages/text";

/** A joist from the side, to its span: the zone where holes are permitted, and the holes of the plan. */
export function JoistFigure({ rows }: { rows: DrillRow[] }) {
  const [first] = rows;
  if (!first?.span_m || !first.depth_mm || !first.zone_m) return null;
  const { span_m: span, depth_mm: depth } = first;
  const [begin, end] = first.zone_m;
  const wide = 1000;
  const x = (at: number) => (wide * Math.min(at, span)) / span;
  const high = 70;
  const label = t("web.routes.joist", {
    depth: String(depth),
    span: String(span),
    begin: begin.toFixed(2),
    end: end.toFixed(2),
  });
  return (
    <figure className="my-2 max-w-2xl">
      <svg viewBox={`0 0 ${wide} ${high}`} role="img" aria-label={label} className="w-full">
        <rect x={0} y={1} width={wide} height={high - 2} className="fill-wash stroke-line" />
        {[x(begin), wide - x(end)].map((at) => (
          <rect
            key={at}
            x={at}
            y={high * 0.3}
            width={x(end) - x(begin)}
            height={high * 0.4}
            className="fill-accent/15 stroke-accent"
            strokeDasharray="6 4"
          />
        ))}
        {rows.map((row) =>
          row.kind === "notch" ? (
            <rect
              key={`${row.room} ${row.at_m} ${row.joists_at_m[0]}`}
              x={x(row.at_m) - 5}
              y={1}
              width={10}
              height={((row.size_mm ?? 0) / depth) * high}
              className={row.refused ? "fill-none stroke-fail" : "fill-sheet stroke-ink"}
            />
          ) : (
            <circle
              key={`${row.room} ${row.at_m} ${row.joists_at_m[0]}`}
              cx={x(row.at_m)}
              cy={high / 2}
              r={Math.max(4, (((row.size_mm ?? 0) / depth) * high) / 2)}
              className={row.refused ? "fill-none stroke-fail" : "fill-sheet stroke-ink"}
              strokeWidth={2}
            />
          ),
        )}
      </svg>
      <figcaption className="text-[12px] text-soft">{label}</figcaption>
    </figure>
  );
}
