import { Minus, Plus } from "lucide-react";
import { useId, useState } from "react";
import { useJob } from "../job/JobContext";
import { type Key, t } from "../messages/text";
import { Button } from "../ui/Button";
import { Select } from "../ui/Select";

const SIDES: Record<string, Key> = {
  "right of": "web.routes.side_right",
  "left of": "web.routes.side_left",
  behind: "web.routes.side_behind",
  "in front of": "web.routes.side_front",
  above: "web.routes.side_above",
  below: "web.routes.side_below",
};

/** A room measured with a few taps, for the phone in the house: it makes the same line as is typed. */
export function RoomForm({ onEnter }: { onEnter: (lines: readonly string[]) => void }) {
  const { document } = useJob();
  const id = useId();
  const onPlan = new Set((document.plan?.rooms ?? []).map(({ room }) => room));
  const placed = (document.rooms ?? []).filter((room) => onPlan.has(room.id));
  const [name, setName] = useState("");
  const [width, setWidth] = useState(4);
  const [depth, setDepth] = useState(3.5);
  const [height, setHeight] = useState(2.4);
  const [side, setSide] = useState("right of");
  const [beside, setBeside] = useState("");
  const last = placed.at(-1)?.name ?? "";
  const line = [
    name.trim().toLowerCase(),
    `${width.toFixed(1)} x ${depth.toFixed(1)} h ${height.toFixed(1)}`,
    placed.length > 0 && `${side} ${(beside || last).toLowerCase()}`,
  ]
    .filter(Boolean)
    .join(" ");
  return (
    <details className="mb-2 text-[13px] open:basis-full" data-testid="room-form">
      <summary className="cursor-pointer text-accent">{t("web.routes.measure")}</summary>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <label htmlFor={id} className="block">
          <span className="mb-0.5 block text-[12px] font-medium text-soft">{t("web.routes.room_name")}</span>
          <input
            id={id}
            list={`${id} rooms`}
            className="w-40 rounded-md border border-line bg-sheet px-2 py-2 text-ink focus:border-accent"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <datalist id={`${id} rooms`}>
            {(document.rooms ?? [])
              .filter((room) => !onPlan.has(room.id))
              .map((room) => (
                <option key={room.id} value={room.name} />
              ))}
          </datalist>
        </label>
        <Stepper label={t("web.routes.room_width")} value={width} onChange={setWidth} />
        <Stepper label={t("web.routes.room_depth")} value={depth} onChange={setDepth} />
        <Stepper label={t("web.routes.room_height")} value={height} onChange={setHeight} />
        {placed.length > 0 && (
          <>
            <Select
              aria-label={t("web.routes.side")}
              value={side}
              options={Object.entries(SIDES).map(([value, text]) => ({ value, label: t(text) }))}
              onCommit={setSide}
            />
            <Select
              aria-label={t("web.routes.beside_room")}
              value={beside || last}
              options={placed.map((room) => ({ value: room.name, label: room.name }))}
              onCommit={setBeside}
            />
          </>
        )}
        <Button
          variant="strong"
          className="py-2"
          disabled={!name.trim()}
          onClick={() => {
            onEnter([line]);
            setName("");
            setBeside("");
          }}
        >
          {t("web.routes.put_room")}
        </Button>
      </div>
    </details>
  );
}

/** A measure in metres by taps: a metre or a decimetre less or more. */
function Stepper({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
}) {
  const step = (by: number) => onChange(Math.max(0.5, Math.round((value + by) * 10) / 10));
  const tap = (by: number) => (
    <button
      type="button"
      className="flex h-10 min-w-10 items-center justify-center gap-0.5 rounded-md border border-line bg-sheet px-1 text-[12px] active:bg-wash"
      aria-label={t(by > 0 ? "web.routes.more" : "web.routes.less", {
        measure: label,
        by: String(Math.abs(by)),
      })}
      onClick={() => step(by)}
    >
      {by > 0 ? <Plus size={12} aria-hidden /> : <Minus size={12} aria-hidden />}
      {Math.abs(by)}
    </button>
  );
  return (
    <fieldset>
      <legend className="mb-0.5 text-[12px] font-medium text-soft">{label}</legend>
      <div className="flex items-center gap-1">
        {tap(-1)}
        {tap(-0.1)}
        <output className="figure w-14 text-center text-[15px]">{value.toFixed(1)} m</output>
        {tap(0.1)}
        {tap(1)}
      </div>
    </fieldset>
  );
}
