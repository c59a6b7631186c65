import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { Board, BoardView, DeviceView } from "../api/client";
import { say } from "../messages/say";
import { t } from "../messages/text";
import { Bars, Blocks, Combs } from "./BarsAndBusbars";
import { isHot, type Place, placeAt, placeByKey } from "./boardModel";
import { DeviceFront } from "./DeviceFront";
import { SUPPLY_MM, SupplySide } from "./SupplySide";
import { WireLayer } from "./WireLayer";

/** The zoom at which the whole board is seen, however small. */
export const FIT = 0;
/** What is free round the enclosure. */
const EDGE_MM = 14;
/** The writing on a device is about 4 mm high. */
const LEAST_PX_A_MM = 1.55;

type Props = {
  view: BoardView;
  zoom: number;
  cover: boolean;
  live: boolean;
  open: ReadonlySet<string>;
  chosen: string | undefined;
  litWire: string | undefined;
  /** The conductor under the pointer. */
  onLightWire?: (wire: string | undefined) => void;
  /** The board, where what supplies it is drawn outside its enclosure. */
  board?: Board;
  onChoose: (unit: string | undefined) => void;
  onToggle?: (unit: string) => void;
  /** A device held over a place: asked for at each new one; `dropped` where it is let go, or was moved by a key. */
  onMove?: (unit: string, place: Place, dropped: boolean) => void;
};

/** The board to scale: rails, devices, bars, combs and conductors; or its cover with blanks. */
export function BoardDrawing(props: Props) {
  const { view, zoom, cover, live, open, chosen, litWire, onLightWire, board, onChoose, onToggle, onMove } =
    props;
  const { svg, drag, down, moved, up, onKey, cancel } = useDragging(props);
  const stab = view.form === "panelboard";
  const above = board ? SUPPLY_MM : 0;
  const [wide, high] = [view.width_mm + 2 * EDGE_MM, view.height_mm + 2 * EDGE_MM + above];

  return (
    <svg
      ref={svg}
      viewBox={`${-EDGE_MM} ${-EDGE_MM - above} ${wide} ${high}`}
      className="on-a-page mx-auto block select-none"
      style={{
        aspectRatio: `${wide} / ${high}`,
        // As large as the window allows, and never so small that the writing cannot be read, unless the whole board is wanted.
        width:
          zoom === FIT
            ? `min(100%, calc(68vh * ${wide / high}))`
            : `max(${wide * LEAST_PX_A_MM * zoom}px, min(${100 * zoom}%, calc(62vh * ${(zoom * wide) / high})))`,
      }}
      role="group"
      aria-label={cover ? t("web.board.drawing.cover_on") : t("web.board.drawing.cover_off")}
      data-testid="board-drawing"
      onPointerMove={moved}
      onPointerUp={up}
      onPointerCancel={cancel}
    >
      <rect
        x={0}
        y={0}
        width={view.width_mm}
        height={view.height_mm}
        rx={5}
        className="fill-ground stroke-pass"
        strokeWidth={1.2}
      />
      {view.rows.map((row) =>
        stab ? (
          <rect key={row.x} {...boxOf(row)} className="fill-line/40" rx={1} />
        ) : (
          <rect
            key={row.y}
            x={row.x - 6}
            y={row.y + row.h / 2 - 17}
            width={row.w + 12}
            height={34}
            className="fill-line"
          />
        ),
      )}
      {cover &&
        view.blanks.map((blank) => (
          <Blank key={`${blank.x} ${blank.y}`} box={blank} stab={stab} step={view.step_mm} />
        ))}
      {view.units.map((unit) => (
        <g
          key={unit.id}
          role="button"
          aria-pressed={onToggle && unit.switches ? open.has(unit.id) : undefined}
          tabIndex={0}
          data-unit={unit.id}
          data-row={unit.row}
          data-at={unit.offset_modules}
          className={onMove && unit.row > 0 ? "cursor-grab outline-offset-0" : "cursor-pointer"}
          onFocus={() => onChoose(unit.id)}
          onKeyDown={(event) => onKey(event, unit)}
          onPointerDown={(event) => down(event, unit)}
          onClick={() => onToggle && unit.switches && onToggle(unit.id)}
        >
          <title>{accessibleText(unit)}</title>
          <DeviceFront
            unit={unit}
            stab={stab}
            cover={cover}
            chosen={unit.id === chosen}
            open={open.has(unit.id)}
            ghost={drag?.unit.id === unit.id}
          />
        </g>
      ))}
      {!cover && <Combs view={view} />}
      {board && <SupplySide board={board} view={view} live={live} />}
      {!cover && <WireLayer view={view} live={live} lit={litWire} onLight={onLightWire} />}
      {!cover && <Bars view={view} lit={unitOf(view, chosen)?.circuit} />}
      {!cover && <Blocks view={view} />}
      {!cover && view.units.map((unit) => <Clamps key={unit.id} view={view} unit={unit} live={live} />)}
      {drag && (
        <rect
          x={drag.x}
          y={drag.y}
          width={drag.unit.box.w}
          height={drag.unit.box.h}
          rx={1.6}
          fill="var(--wash)"
          fillOpacity={0.6}
          stroke="var(--accent)"
          strokeWidth={1}
          pointerEvents="none"
        />
      )}
    </svg>
  );
}

/** Moving a device: dragged by a pointer, or by Shift and an arrow key. */
function useDragging({
  view,
  onChoose,
  onToggle,
  onMove,
}: Pick<Props, "view" | "onChoose" | "onToggle" | "onMove">) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ unit: DeviceView; dx: number; dy: number; x: number; y: number }>();

  const inDrawing = (event: PointerEvent) => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return { x: 0, y: 0 };
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return { x: point.x, y: point.y };
  };
  const down = (event: PointerEvent<SVGGElement>, unit: DeviceView) => {
    onChoose(unit.id);
    if (!onMove || unit.row === 0 || event.button !== 0) return;
    const at = inDrawing(event);
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ unit, dx: at.x - unit.box.x, dy: at.y - unit.box.y, x: unit.box.x, y: unit.box.y });
  };
  const moved = (event: PointerEvent) => {
    if (!drag || !onMove) return;
    const at = inDrawing(event);
    const [x, y] = [at.x - drag.dx, at.y - drag.dy];
    setDrag({ ...drag, x, y });
    if (Math.hypot(x - drag.unit.box.x, y - drag.unit.box.y) > 4)
      onMove(drag.unit.id, placeAt(view, drag.unit, x, y), false);
  };
  const up = () => {
    if (drag && onMove && Math.hypot(drag.x - drag.unit.box.x, drag.y - drag.unit.box.y) > 4)
      onMove(drag.unit.id, placeAt(view, drag.unit, drag.x, drag.y), true);
    setDrag(undefined);
  };
  const onKey = (event: KeyboardEvent, unit: DeviceView) => {
    if ((event.key === "Enter" || event.key === " ") && onToggle && unit.switches) {
      event.preventDefault();
      onToggle(unit.id);
      return;
    }
    const place = event.shiftKey && onMove && unit.row > 0 ? placeByKey(view, unit, event.key) : undefined;
    if (place && onMove) {
      event.preventDefault();
      onMove(unit.id, place, true);
    }
  };

  return { svg, drag, down, moved, up, onKey, cancel: () => setDrag(undefined) };
}

function boxOf({ x, y, w, h }: { x: number; y: number; w: number; h: number }) {
  return { x, y, width: w, height: h };
}

function unitOf(view: BoardView, id: string | undefined) {
  return view.units.find((unit) => unit.id === id);
}

function accessibleText(unit: DeviceView): string {
  const way = unit.way ? t("web.board.drawing.way", { n: unit.way }) : "";
  return `${way}${say(unit.name)}, ${unit.mark}`;
}

function Blank({
  box,
  stab,
  step,
}: {
  box: { x: number; y: number; w: number; h: number };
  stab: boolean;
  step: number;
}) {
  const face = stab ? box : { ...box, y: box.y + box.h / 2 - 23, h: 46 };
  const count = Math.floor((stab ? face.h : face.w) / step + 0.01);
  return (
    <g data-blank>
      <rect {...boxOf(face)} className="fill-ground stroke-line" strokeWidth={0.8} />
      {Array.from({ length: count }, (_, at) => at + 1).map((at) => (
        <line
          key={at}
          x1={stab ? face.x : face.x + at * step}
          x2={stab ? face.x + face.w : face.x + at * step}
          y1={stab ? face.y + at * step : face.y}
          y2={stab ? face.y + at * step : face.y + face.h}
          className="stroke-line"
          strokeWidth={0.8}
        />
      ))}
      <title>{t("web.board.drawing.blanks")}</title>
    </g>
  );
}

/** The clamps of a device; in the live view filled where they are live. */
function Clamps({ view, unit, live }: { view: BoardView; unit: DeviceView; live: boolean }) {
  const states = new Map(view.live.map((liveNet) => [liveNet.net, liveNet.state]));
  return (
    <g pointerEvents={t("web.board.build.enclosure_none")}>
      {unit.clamps.map((clamp) => {
        const state = states.get(clamp.net);
        const hot = live && isHot(state);
        return (
          <g key={clamp.terminal} data-clamp={clamp.terminal} data-state={state}>
            <circle
              cx={clamp.x}
              cy={clamp.y}
              r={hot ? 2.5 : 1.9}
              fill={hot ? "var(--fail)" : "var(--sheet)"}
              stroke="var(--ink)"
              strokeWidth={0.5}
            />
          </g>
        );
      })}
    </g>
  );
}
