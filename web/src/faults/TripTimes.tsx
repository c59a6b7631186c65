import type { FaultResult } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { ENDS, ruler, TICKS } from "./tripTimesModel";

const WIDTH = 900;
const LEFT = 250;
const ROW = 24;

/** Every device that opens or may, as a span from its earliest to its latest, on a ruler of time. */
export function TripTimes({ stages }: { stages: FaultResult["stages"] }) {
  const rows = stages.flatMap((stage, at) => stage.openings.map((opening) => ({ ...opening, stage: at })));
  if (!rows.length) return null;
  const height = rows.length * ROW + 26;
  const x = ruler(LEFT, WIDTH - 12);
  return (
    <div className="shrink-0 overflow-x-auto">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="h-auto w-full min-w-[40rem] max-w-5xl"
        role="img"
        aria-label={rows.map((row) => `${say(row.name)}, ${say(row.shown)}`).join("; ")}
        data-testid="ruler"
      >
        {TICKS.map((tick) => (
          <g key={tick.label}>
            <line x1={x(tick.at)} x2={x(tick.at)} y1={0} y2={height - 20} stroke="var(--line)" />
            <text x={x(tick.at)} y={height - 6} fontSize="12" textAnchor="middle" fill="var(--soft)">
              {tick.label}
            </text>
          </g>
        ))}
        {rows.map((row, at) => {
          const from = x(Math.max(row.earliest_s ?? 0, ENDS[0]));
          const to = row.latest_s === null || row.latest_s === undefined ? WIDTH - 12 : x(row.latest_s);
          const open = row.latest_s === null || row.latest_s === undefined;
          const y = at * ROW + 5;
          return (
            <g key={`${row.stage} ${row.device}`}>
              <text x={0} y={y + 11} fontSize="13" fill="var(--ink)" fontWeight={row.certain ? 600 : 400}>
                {say(row.name).length > 34 ? `${say(row.name).slice(0, 33)}…` : say(row.name)}
              </text>
              <rect
                x={from}
                y={y}
                width={Math.max(6, to - from)}
                height={13}
                rx={2}
                fill={row.certain ? "var(--accent)" : "none"}
                stroke="var(--accent)"
                strokeWidth={1.6}
                strokeDasharray={row.certain ? "" : "4 3"}
              />
              <text
                x={open ? from + 6 : Math.min(to + 6, WIDTH - 120)}
                y={y + 11}
                fontSize="11.5"
                fill="var(--soft)"
              >
                {open
                  ? t("web.faults.times.maybe")
                  : row.certain
                    ? t("web.faults.times.sure")
                    : t("web.faults.times.one_of")}
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
