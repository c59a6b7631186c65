import type { PlannedCircuit } from "../api/client";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { type Box, boxRows } from "./boxRows";
import { nameOf } from "./planNames";

const ROW = 15;
const COLUMN = 26;
const SIDE = 150;
const HEAD = 18;

/**
 * A box as it is joined: its cables on the left and its terminals on the right, a line for each conductor, and a column for each net; a dot
 * where a conductor joins its column.
 */
export function BoxDrawing({ circuit, box }: { circuit: PlannedCircuit; box: Box }) {
  const { document } = useJob();
  const { left, right, nets } = boxRows(circuit, box);
  const rows = Math.max(left.length, right.length);
  const width = 2 * SIDE + (nets.length + 1) * COLUMN;
  const height = HEAD + rows * ROW + 6;
  const x = (net: string) => SIDE + (nets.indexOf(net) + 1) * COLUMN;
  const y = (row: number) => HEAD + (row + 0.5) * ROW;
  const reach = (net: string) =>
    [left, right].flatMap((side) => side.flatMap((each, row) => (each.net === net ? [y(row)] : [])));
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      style={{ maxWidth: width }}
      className="my-1 w-full"
      role="img"
      aria-label={t("web.routes.box_drawing", { box: nameOf(box.box, document) })}
    >
      <rect
        x={SIDE}
        y={1}
        width={(nets.length + 1) * COLUMN}
        height={height - 2}
        rx={4}
        className="fill-wash stroke-line"
      />
      {nets.map((net) => (
        <g key={net} data-net={net}>
          <text x={x(net)} y={12} textAnchor="middle" fontSize={10} className="figure fill-ink">
            {net}
          </text>
          <line
            x1={x(net)}
            x2={x(net)}
            y1={Math.min(...reach(net))}
            y2={Math.max(...reach(net))}
            className="stroke-ink"
            strokeWidth={1.6}
          />
        </g>
      ))}
      {left.map((row, index) => (
        <g key={`left ${index}`} data-end={`${row.of} ${row.net}`}>
          <line
            x1={SIDE - 8}
            x2={x(row.net)}
            y1={y(index)}
            y2={y(index)}
            className="stroke-accent"
            strokeWidth={1.2}
          />
          <circle cx={x(row.net)} cy={y(index)} r={2.6} className="fill-ink" />
          {row.of !== left[index - 1]?.of && (
            <text x={SIDE - 12} y={y(index) + 3.5} textAnchor="end" fontSize={10} className="fill-soft">
              {shortened(nameOf(row.of, document))}
            </text>
          )}
        </g>
      ))}
      {right.map((row, index) => (
        // A device may have two terminals for one net.
        <g key={`right ${index}`} data-terminal={`${row.of} ${row.net}`}>
          <line
            x1={x(row.net)}
            x2={width - SIDE + 8}
            y1={y(index)}
            y2={y(index)}
            className="stroke-soft"
            strokeWidth={1.2}
            strokeDasharray="3 2"
          />
          <circle cx={x(row.net)} cy={y(index)} r={2.6} className="fill-ink" />
          {(index === 0 || row.of !== right[index - 1]?.of) && (
            <text x={width - SIDE + 12} y={y(index) + 3.5} fontSize={10} className="fill-soft">
              {shortened(row.of)}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}

/** A name as long as there is room for. */
const shortened = (name: string) => (name.length > 24 ? `${name.slice(0, 23)}…` : name);
