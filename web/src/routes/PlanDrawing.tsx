import { type MouseEvent, type PointerEvent, useRef, useState } from "react";
import type { Drawing, DrawnPoint } from "../api/client";
import { t } from "../messages/text";
import { cx } from "../ui/cx";
import { frameOf, levelName, type Place } from "./planModel";
import { linePath, PointSymbol } from "./Symbol";

/** A press that moves less is no drag [px]. */
const DRAG_PX = 6;

/** A floor from above: its rooms with doors and windows, its points, and the cables of every circuit; those of one stand out. */
export function PlanDrawing({
  drawing,
  level,
  circuit,
  selected,
  onSelect,
  onShow,
  onKey,
  onDrop,
  onPlace,
}: {
  drawing: Drawing;
  level: number;
  circuit: string;
  selected: string;
  onSelect: (id: string) => void;
  onShow: (circuit: string) => void;
  onKey: (key: string) => boolean;
  /** A point was dragged to a place of the plan. */
  onDrop: (id: string, at: Place) => void;
  /** A place of the plan was pressed while a kind of point is to be dropped; undefined: none is. */
  onPlace?: (at: Place) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [dragged, setDragged] = useState<{ id: string; at: Place }>();
  const frame = frameOf(drawing, level);
  const path = (places: readonly Place[], close = false) => linePath(places, frame.put) + (close ? " Z" : "");
  const points = drawing.points.filter((point) => point.level === level);
  /** Where the pointer is in the drawing. */
  const placeOf = (event: PointerEvent | MouseEvent): Place => {
    const matrix = svg.current?.getScreenCTM()?.inverse();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return [at.x, at.y];
  };
  const drag = {
    move: (id: string, event: PointerEvent) => setDragged({ id, at: placeOf(event) }),
    end: (id: string, event: PointerEvent, far: boolean) => {
      setDragged(undefined);
      if (far) onDrop(id, frame.take(placeOf(event)));
    },
  };
  return (
    // Points are typed by keyboard; pressing the drawing is the way of the pointer to the same.
    // biome-ignore lint/a11y/useKeyWithClickEvents: see above
    <svg
      ref={svg}
      viewBox={`0 0 ${frame.width} ${frame.height}`}
      onClick={(event) => onPlace?.(frame.take(placeOf(event)))}
      className={cx(
        "max-h-[62vh] w-full rounded-md border border-line bg-sheet",
        onPlace && "cursor-crosshair",
      )}
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
          at={dragged?.id === point.id ? dragged.at : frame.put(point.at)}
          drag={drag}
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
  drag,
}: {
  point: DrawnPoint;
  drag: {
    move: (id: string, event: PointerEvent) => void;
    end: (id: string, event: PointerEvent, far: boolean) => void;
  };
  at: Place;
  large: number;
  dim: boolean;
  selected: boolean;
  onSelect: (id: string) => void;
  onKey: (key: string) => boolean;
}) {
  const from = useRef<Place>(undefined);
  const far = (event: PointerEvent) =>
    from.current !== undefined &&
    Math.hypot(event.clientX - from.current[0], event.clientY - from.current[1]) > DRAG_PX;
  return (
    <g
      role="button"
      tabIndex={0}
      data-point={point.id}
      aria-pressed={selected}
      aria-label={`${point.name}, ${Math.round(point.height_m * 100) / 100} m`}
      transform={`translate(${x} ${y}) scale(${large})`}
      className={cx(
        "group cursor-pointer touch-none outline-none",
        dim ? "text-soft opacity-50" : selected ? "text-accent" : "text-ink",
      )}
      onClick={(event) => {
        event.stopPropagation();
        onSelect(point.id);
      }}
      onPointerDown={(event) => {
        if (point.kind === "board") return;
        from.current = [event.clientX, event.clientY];
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (far(event)) drag.move(point.id, event);
      }}
      onPointerUp={(event) => {
        if (from.current) drag.end(point.id, event, far(event));
        from.current = undefined;
      }}
      onPointerCancel={() => {
        from.current = undefined;
      }}
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
