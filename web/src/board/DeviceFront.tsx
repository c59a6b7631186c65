import type { DeviceView } from "../api/client";
import { say } from "../messages/say";
import { cx } from "../ui/cx";

type Props = {
  unit: DeviceView;
  stab: boolean;
  cover: boolean;
  chosen: boolean;
  open: boolean;
  ghost?: boolean;
};

/** The front of a device: its lever, what is written on it, and what it is for. */
export function DeviceFront({ unit, stab, cover, chosen, open, ghost }: Props) {
  const { x, y, w, h } = unit.box;
  const face = cover && !stab ? { y: y + h / 2 - 23, h: 46 } : { y, h };
  return (
    // biome-ignore lint/a11y/noAriaHiddenOnFocusable: a drawing; the group around it carries the name, and the focus
    <g opacity={ghost ? 0.55 : 1} aria-hidden="true">
      <rect
        x={x + 0.4}
        y={face.y}
        width={Math.max(1, w - 0.8)}
        height={face.h}
        rx={1.6}
        className={cx("fill-sheet", chosen ? "stroke-accent" : "stroke-pass")}
        strokeWidth={chosen ? 1.6 : 0.6}
      />
      {stab ? <StabFace unit={unit} open={open} /> : <RailFace unit={unit} open={open} cover={cover} />}
    </g>
  );
}

function RailFace({ unit, open, cover }: { unit: DeviceView; open: boolean; cover: boolean }) {
  const { x, y, w, h } = unit.box;
  const middle = y + h / 2;
  const name = unit.way === null || unit.way === undefined ? say(unit.name) : `${unit.way} ${say(unit.name)}`;
  const long = cover ? 42 : 62;
  const size = Math.min(5, (long * 1.8) / Math.max(8, name.length));
  const [first = "", ...rest] = unit.mark
    .replace(/^(\S+) A\b/, "$1\u00a0A")
    .replace(/^type /, "type\u00a0")
    .split(" ");
  // What is written on it stands beside its name: across where there is room, else above and below the lever.
  const left = w > 20 ? x + w / 2 - 2 : x + 5.6;
  return (
    <>
      {unit.switches && <Lever x={left - 3.8} y={middle - 9} open={open} />}
      <text
        x={left}
        y={middle - 12}
        textAnchor="middle"
        fontSize={4.4}
        className="figure fill-ink font-semibold"
      >
        {first}
      </text>
      <text x={left} y={middle + 14.5} textAnchor="middle" fontSize={3.4} className="figure fill-soft">
        {rest.slice(0, 2).join(" ")}
      </text>
      {cover && unit.way && (
        <text x={x + w / 2} y={middle + 31} textAnchor="middle" fontSize={6.5} className="figure fill-ink">
          {unit.way}
        </text>
      )}
      <text
        transform={`translate(${x + w - 2.4} ${middle + long / 2}) rotate(-90)`}
        fontSize={size}
        className="fill-ink font-medium"
      >
        {say(name)}
      </text>
    </>
  );
}

function StabFace({ unit, open }: { unit: DeviceView; open: boolean }) {
  const { x, y, w, h } = unit.box;
  const name = unit.way === null || unit.way === undefined ? say(unit.name) : `${unit.way} ${say(unit.name)}`;
  const inner = unit.row === 1;
  const head = unit.row === 0;
  // One of two breakers in the place of one has room for a line.
  if (!head && h < HALF_MM) return <HalfFace unit={unit} name={say(name)} open={open} />;
  return (
    <>
      {unit.switches && (
        <Lever
          x={head ? x + w / 2 - 4.5 : inner ? x + w - 17 : x + 8}
          y={y + h / 2 - 6}
          open={open}
          flat={!head}
        />
      )}
      <text
        x={head ? x + w / 2 : inner ? x + 3 : x + w - 3}
        y={y + (head ? 14 : 9)}
        textAnchor={head ? "middle" : inner ? "start" : "end"}
        fontSize={Math.min(6, 110 / Math.max(10, name.length))}
        className="fill-ink font-medium"
      >
        {say(name)}
      </text>
      <text
        x={head ? x + w / 2 : inner ? x + 3 : x + w - 3}
        y={y + (head ? 22 : 17)}
        textAnchor={head ? "middle" : inner ? "start" : "end"}
        fontSize={5.4}
        className="figure fill-soft"
      >
        {unit.mark}
      </text>
    </>
  );
}

/** Lower than this a device of a panel is one half of a tandem [mm]. */
const HALF_MM = 18;

function HalfFace({ unit, name, open }: { unit: DeviceView; name: string; open: boolean }) {
  const { x, y, w, h } = unit.box;
  const inner = unit.row === 1;
  const text = `${name} · ${unit.mark}`;
  return (
    <>
      <Lever x={inner ? x + w - 17 : x + 8} y={y + h / 2 - 4} open={open} flat low />
      <text
        x={inner ? x + 3 : x + w - 3}
        y={y + h / 2 + 2}
        textAnchor={inner ? "start" : "end"}
        fontSize={Math.min(5.6, 98 / Math.max(10, text.length))}
        className="fill-ink font-medium"
      >
        {text}
      </text>
    </>
  );
}

/** A lever: filled where the contacts are closed, hollow and turned where they are open. */
function Lever({
  x,
  y,
  open,
  flat,
  low,
}: {
  x: number;
  y: number;
  open: boolean;
  flat?: boolean;
  low?: boolean;
}) {
  const [w, h] = low ? [9, 8] : flat ? [9, 12] : [7.6, 18];
  return (
    <g>
      <rect x={x} y={y} width={w} height={h} rx={1.2} className="fill-ground stroke-line" strokeWidth={0.5} />
      <rect
        x={x + 1.4}
        y={open ? y + h / 2 + 0.6 : y + 1.2}
        width={w - 2.8}
        height={h / 2 - 1.8}
        rx={0.8}
        className={open ? "fill-none stroke-ink" : "fill-ink stroke-ink"}
        strokeWidth={0.6}
      />
    </g>
  );
}
