import { useRef, useState } from "react";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { FileButton } from "../ui/FileButton";
import type { Place } from "./planModel";

const BLANK_M = { width: 12, height: 9 };
const STEP_M = 0.05;

type Picture = { url: string; ratio: number };

/** A place on the grid that traced rooms have. */
const snapped = (value: number) => Math.round(value / STEP_M) * STEP_M;

/**
 * Rooms drawn as rectangles, over a picture of the floor at a scale that is set: the picture stays in this browser, the rooms are entered as
 * lines are.
 */
export function Tracing({ level, onEnter }: { level: number; onEnter: (lines: readonly string[]) => void }) {
  const svg = useRef<SVGSVGElement>(null);
  const [picture, setPicture] = useState<Picture>();
  const [wide, setWide] = useState(BLANK_M.width);
  const [from, setFrom] = useState<Place>();
  const [to, setTo] = useState<Place>();
  const [name, setName] = useState("");
  const high = picture ? wide / picture.ratio : BLANK_M.height;
  const placeOf = (event: React.PointerEvent): Place => {
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      svg.current?.getScreenCTM()?.inverse(),
    );
    return [snapped(at.x), snapped(at.y)];
  };
  const open = async (chosen: File) => {
    const image = await createImageBitmap(chosen);
    const reader = new FileReader();
    reader.onload = () => setPicture({ url: String(reader.result), ratio: image.width / image.height });
    reader.readAsDataURL(chosen);
  };
  const box = from &&
    to && {
      x: Math.min(from[0], to[0]),
      y: Math.min(from[1], to[1]),
      width: Math.abs(from[0] - to[0]),
      height: Math.abs(from[1] - to[1]),
    };
  const room = box && box.width > 0.3 && box.height > 0.3 ? box : undefined;
  const enter = () => {
    if (!room || !name.trim()) return;
    const [x, y] = [room.x, high - room.y - room.height];
    onEnter([
      `${name.trim().toLowerCase()} ${room.width.toFixed(2)} x ${room.height.toFixed(2)} place ${x.toFixed(2)} ${y.toFixed(2)} floor ${level}`,
    ]);
    setName("");
    setFrom(undefined);
    setTo(undefined);
  };
  return (
    <details className="mb-2 text-[13px] open:basis-full" data-testid="tracing">
      <summary className="cursor-pointer text-accent">{t("web.routes.trace")}</summary>
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <FileButton
          label={t("web.routes.trace_picture")}
          accept="image/*"
          onFiles={([chosen]) => chosen && void open(chosen)}
        />
        <label className="flex items-center gap-1">
          {t("web.routes.trace_wide")}
          <input
            type="number"
            min={1}
            step={0.1}
            className="figure w-20 rounded-md border border-line bg-sheet px-2 py-1"
            value={wide}
            onChange={(event) => setWide(Math.max(1, Number(event.target.value) || 1))}
          />
          m
        </label>
        {room && (
          <>
            <span className="figure" data-traced>
              {room.width.toFixed(2)} × {room.height.toFixed(2)} m
            </span>
            <input
              aria-label={t("web.routes.room_name")}
              placeholder={t("web.routes.room_name")}
              className="w-40 rounded-md border border-line bg-sheet px-2 py-1"
              value={name}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => event.key === "Enter" && enter()}
            />
            <Button variant="strong" disabled={!name.trim()} onClick={enter}>
              {t("web.routes.put_room")}
            </Button>
          </>
        )}
      </div>
      <svg
        ref={svg}
        viewBox={`0 0 ${wide} ${high}`}
        className="mt-1 max-h-[60vh] w-full cursor-crosshair touch-none rounded-md border border-line bg-sheet"
        role="img"
        aria-label={t("web.routes.trace_area")}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setFrom(placeOf(event));
          setTo(undefined);
        }}
        onPointerMove={(event) => event.buttons > 0 && setTo(placeOf(event))}
      >
        {picture && <image href={picture.url} width={wide} height={high} opacity={0.6} />}
        {box && <rect {...box} className="fill-accent/20 stroke-accent" strokeWidth={wide / 300} />}
      </svg>
    </details>
  );
}
