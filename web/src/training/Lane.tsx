import type { PlayView } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";

type Circuit = PlayView["circuits"][number];
type Point = Circuit["house"]["points"][number];

/** A circuit drawn from the board into the house: its cable with size and length, its points as they are now; a ring comes back. */
export function Lane({ circuit }: { circuit: Circuit }) {
  const { house } = circuit;
  const live = house.points.filter(({ state }) => state !== "dead").length;
  const label = t("web.training.lane", { n: house.points.length, live });
  return (
    <div className="min-w-0 flex-1 max-sm:basis-full max-sm:pl-2">
      <div
        role="img"
        aria-label={label}
        data-points={house.points.map(({ state }) => state).join(" ")}
        className={`relative mr-3 ${house.ring ? "h-10" : "h-6"}`}
      >
        <span
          aria-hidden
          className={`absolute left-0 ${
            house.ring ? "inset-y-[7px] right-0 rounded-r-xl border border-l-0" : "top-1/2 right-0 border-t"
          } ${circuit.live ? "border-ink" : "border-soft border-dashed"}`}
        />
        {house.points.map((point) => (
          <Glyph key={point.at} point={point} open={circuit.open} style={place(point.at, house.ring)} />
        ))}
      </div>
      <p className="figure truncate text-[11.5px] text-soft">
        {t("web.training.cable", { cable: say(house.cable), m: String(house.length_m) })}
      </p>
    </div>
  );
}

const FILLS: Record<Point["state"], string> = {
  works: "var(--accent)",
  dim: "var(--wash)",
  bright: "var(--tight)",
  dead: "var(--sheet)",
};

/** Where a point is on a lane: a ring goes out along the upper edge and comes back along the lower one. */
const place = (at: number, ring: boolean) =>
  ring
    ? { left: `${(at <= 0.5 ? at : 1 - at) * 200}%`, top: at <= 0.5 ? 7 : "calc(100% - 7px)" }
    : { left: `${at * 100}%`, top: "50%" };

/** A point: filled while it works, pale while it is dim, of another colour while it is too bright, empty without supply; with a broken edge while its cover is off. */
function Glyph({
  point,
  open,
  style,
}: {
  point: Point;
  open: boolean;
  style: { left: string; top: string | number };
}) {
  const fill = FILLS[point.state];
  return (
    <svg
      aria-hidden="true"
      viewBox="0 0 16 16"
      width="18"
      height="18"
      className="-translate-x-1/2 -translate-y-1/2 absolute"
      style={style}
      fill={fill}
      stroke={point.state === "dead" ? "var(--soft)" : "var(--ink)"}
      strokeWidth="1.4"
      strokeDasharray={open ? "2.5 1.6" : undefined}
    >
      {point.kind === "lamp" ? (
        <>
          <circle cx="8" cy="8" r="6" />
          <path d="M3.8 3.8 12.2 12.2M12.2 3.8 3.8 12.2" />
        </>
      ) : point.kind === "outlet" ? (
        <path d="M2 12a6 6 0 0 1 12 0ZM8 6V2" />
      ) : point.kind === "source" ? (
        <path d="M2 3h12v10H2ZM2 8h12M8 3v10" />
      ) : (
        <rect x="2.5" y="2.5" width="11" height="11" />
      )}
    </svg>
  );
}
