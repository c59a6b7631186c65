import { useQuery } from "@tanstack/react-query";
import type { Drawing, FaultResult } from "../api/client";
import { planQuery } from "../api/queries";
import { useJob } from "../job/JobContext";
import { t } from "../messages/text";
import { frameOf, levelName, linePath } from "../routes";
import { cx } from "../ui/cx";

type RoomLost = FaultResult["rooms"][number];

/** How a room looks by what becomes of its lights: never by colour alone. */
const LOOK: Record<string, { fill: string; text: string }> = {
  lit: { fill: "fill-sheet", text: "fill-ink" },
  perhaps: { fill: "fill-[url(#perhaps)]", text: "fill-ink" },
  dark: { fill: "fill-ink", text: "fill-sheet" },
};

/** The floors of the plan from above, all at one scale: which rooms are lit. */
export function PlanOfRooms({ rooms }: { rooms: readonly RoomLost[] }) {
  const { document, version } = useJob();
  const plan = useQuery(planQuery(document, version));
  if (!plan.data) return null;
  const { drawing } = plan.data;
  return (
    <div className="grid gap-2" data-testid="house-plan">
      {drawing.levels.map((level) => (
        <Floor key={level} drawing={drawing} level={level} rooms={rooms} />
      ))}
    </div>
  );
}

function Floor({ drawing, level, rooms }: { drawing: Drawing; level: number; rooms: readonly RoomLost[] }) {
  const frame = frameOf(drawing, level);
  const widest = frameOf(drawing).width;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${widest} ${frame.height}`}
        className="w-full"
        role="img"
        aria-label={t("web.faults.rooms.plan", { level: levelName(drawing, level) })}
      >
        <defs>
          <pattern
            id="perhaps"
            width="0.5"
            height="0.5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="0.5" height="0.5" className="fill-sheet" />
            <rect width="0.2" height="0.5" className="fill-line" />
          </pattern>
        </defs>
        {drawing.rooms
          .filter((room) => room.level === level)
          .map((room) => {
            const state = rooms.find((each) => each.room === room.room)?.lights_out ?? "lit";
            const look = LOOK[state] ?? LOOK.lit;
            const wide =
              Math.max(...room.corners.map(([x]) => x)) - Math.min(...room.corners.map(([x]) => x));
            const letters = Math.min(widest / 28, (1.7 * wide) / room.name.length);
            const middle = frame.put([
              mean(room.corners.map(([x]) => x)),
              mean(room.corners.map(([, y]) => y)),
            ]);
            return (
              <g key={room.room} data-room={room.room} data-dark={state}>
                <path
                  d={`${linePath(room.corners, frame.put)} Z`}
                  className={cx(look?.fill, "stroke-ink")}
                  strokeWidth={0.07}
                />
                <text
                  x={middle[0]}
                  y={middle[1]}
                  textAnchor="middle"
                  fontSize={letters}
                  className={look?.text}
                >
                  {room.name}
                </text>
                {state !== "lit" && (
                  <text
                    x={middle[0]}
                    y={middle[1] + letters * 1.1}
                    textAnchor="middle"
                    fontSize={letters * 0.8}
                    className={look?.text}
                  >
                    {t(state === "dark" ? "web.faults.rooms.lost" : "web.faults.rooms.maybe")}
                  </text>
                )}
              </g>
            );
          })}
      </svg>
      <figcaption className="text-[11.5px] text-soft">{levelName(drawing, level)}</figcaption>
    </figure>
  );
}

/** The middle of the least and the greatest. */
const mean = (values: readonly number[]) => (Math.min(...values) + Math.max(...values)) / 2;
