import type { Drawing, DrawnPoint } from "../api/client";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { frameOf, levelName, type Place } from "./planModel";
import { linePath, PointSymbol } from "./Symbol";

/** A floor from above: its rooms with doors and windows, its points, and the cables of every circuit; those of one stand out. */
export function PlanDrawing({
  drawing,
  level,
  circuit,
  selected,
  onSelect,
  onShow,
  onKey,
}: {
  drawing: Drawing;
  level: number;
  circuit: string;
  selected: string;
  onSelect: (id: string) => void;
  onShow: (circuit: string) => void;
  onKey: (key: string) => boolean;
}) {
  const frame = frameOf(drawing, level);
  const path = (places: readonly Place[], close = false) => linePath(places, frame.put) + (close ? " Z" : "");
  const points = drawing.points.filter((point) => point.level === level);
  return (
    <svg
      viewBox={`0 0 ${frame.width} ${frame.height}`}
      className="max-h-[62vh] w-full rounded-md border border-line bg-sheet"
      role="group"
      aria-label={t("web.routes.drawing", { level: levelName(drawing, level) })}
    >
      {drawing.rooms
        .filter((room) => room.level === level)
        .map((room) => (
          <Room key={room.room} room={room} path={path} put={frame.put} large={frame.large} />
        ))}
      <g fill="none" strokeLinejoin="round">
        {drawing.sections
          .filter((section) => section.level === level)
          .map((section) => (
            <path
              key={`${section.circuit} ${section.a} ${section.b}`}
              data-route={section.circuit}
              d={path(section.corners)}
              className={cx(
                "stroke-accent",
                section.circuit === circuit ? "opacity-100" : circuit ? "opacity-15" : "opacity-45",
              )}
              strokeWidth={(section.circuit === circuit ? 0.06 : 0.03) * frame.large}
            />
          ))}
        {drawing.sections
          .filter((section) => section.level === level)
          .map((section) => (
            // Wider than the line, so that it can be pointed at.
            <path
              key={`reach ${section.circuit} ${section.a} ${section.b}`}
              data-reach={section.circuit}
              d={path(section.corners)}
              stroke="transparent"
              strokeWidth={0.18}
              onPointerEnter={() => onShow(section.circuit)}
              onPointerLeave={() => onShow("")}
            />
          ))}
      </g>
      {points.map((point) => (
        <Point
          key={point.id}
          point={point}
          at={frame.put(point.at)}
          large={frame.large}
          dim={Boolean(circuit) && point.circuit !== circuit}
          selected={point.id === selected}
          onSelect={onSelect}
          onKey={onKey}
        />
      ))}
    </svg>
  );
}

function Room({
  room,
  path,
  put,
  large,
}: {
  room: Drawing["rooms"][number];
  path: (places: readonly Place[], close?: boolean) => string;
  put: (place: Place) => Place;
  large: number;
}) {
  const xs = room.corners.map(([x]) => x);
  const ys = room.corners.map(([, y]) => y);
  const [x, y] = put([Math.min(...xs), Math.max(...ys)]);
  const wide = Math.max(...xs) - Math.min(...xs);
  // As large as the width of the room takes.
  const letters = Math.min(0.24 * large, (1.6 * wide) / room.name.length);
  return (
    <g data-room={room.room}>
      <path d={path(room.corners, true)} className="fill-transparent stroke-ink" strokeWidth={0.07} />
      {room.openings.map((opening) => (
        <g key={`${opening.a} ${opening.b}`} fill="none">
          <path
            d={path([opening.a, opening.b])}
            className={opening.kind === "window" ? "stroke-soft" : "stroke-sheet"}
            strokeWidth={opening.kind === "window" ? 0.03 : 0.1}
          />
          <path
            d={(opening.leaf ?? []).map((line) => path(line)).join(" ")}
            className="stroke-line"
            strokeWidth={0.02}
          />
        </g>
      ))}
      {room.fixtures.map((fixture) => (
        <path
          key={JSON.stringify(fixture.strokes[0])}
          data-fixture={fixture.kind}
          d={fixture.strokes.map((line) => path(line)).join(" ")}
          fill="none"
          className="stroke-soft"
          strokeWidth={0.02}
        />
      ))}
      <text x={x + wide / 2} y={y + 0.8 * large} textAnchor="middle" fontSize={letters} className="fill-soft">
        {room.name}
      </text>
    </g>
  );
}

function Point({
  point,
  at: [x, y],
  large,
  dim,
  selected,
  onSelect,
  onKey,
}: {
  point: DrawnPoint;
  at: Place;
  large: number;
  dim: boolean;
  selected: boolean;
  onSelect: (id: string) => void;
  onKey: (key: string) => boolean;
}) {
  return (
    <g
      role="button"
      tabIndex={0}
      data-point={point.id}
      aria-pressed={selected}
      aria-label={`${point.name}, ${Math.round(point.height_m * 100) / 100} m`}
      transform={`translate(${x} ${y}) scale(${large})`}
      className={cx(
        "group cursor-pointer outline-none",
        dim ? "text-soft opacity-50" : selected ? "text-accent" : "text-ink",
      )}
      onClick={() => onSelect(point.id)}
      onFocus={() => onSelect(point.id)}
      onKeyDown={(event) => {
        if (onKey(event.key)) event.preventDefault();
      }}
    >
      <title>{point.name}</title>
      <circle
        r={0.3}
        cy={point.wall ? -0.1 : 0}
        strokeWidth={0.04}
        className={cx("group-focus-visible:stroke-accent", selected ? "fill-wash" : "fill-transparent")}
      />
      <PointSymbol point={point} />
    </g>
  );
}
