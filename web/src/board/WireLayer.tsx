import type { BoardView, Conductor } from "../api/client";
import { isStriped, paintOf, STRIPE } from "../ui/conductors";
import { cx } from "../ui/cx";
import { isHot, liveByNet, netOf, netOfTerminal } from "./boardModel";

type Props = {
  view: BoardView;
  live: boolean;
  lit: string | undefined;
  /** The conductor under the pointer; none once it leaves. */
  onLight?: (wire: string | undefined) => void;
};

/** Every conductor in its colour along its way; in the live view the live ones full and thick, the dead ones dotted. */
export function WireLayer({ view, live, lit, onLight }: Props) {
  const states = liveByNet(view);
  const terminals = netOfTerminal(view);
  // The one that is pointed at is drawn last, so that no other covers it.
  const drawn = view.conductors
    .filter((conductor) => conductor.kind !== "plug")
    .sort((a, b) => Number(a.id === lit) - Number(b.id === lit));
  return (
    <g data-testid="wires" onPointerLeave={() => onLight?.(undefined)}>
      {drawn.map((conductor) => (
        <Wire
          key={conductor.id}
          conductor={conductor}
          state={states.get(netOf(conductor, terminals) ?? "")?.state ?? "dead"}
          live={live}
          lit={conductor.id === lit}
          dimmed={lit !== undefined && conductor.id !== lit}
          onLight={onLight}
        />
      ))}
    </g>
  );
}

type WireProps = Omit<Props, "view" | "lit"> & {
  conductor: Conductor;
  state: string;
  lit: boolean;
  dimmed: boolean;
};

function Wire({ conductor, state, live, lit, dimmed, onLight }: WireProps) {
  const points = conductor.corners.map(({ x, y }) => `${x},${y}`).join(" ");
  const hot = isHot(state);
  const wide = Math.min(2.2, 0.5 + Math.sqrt(conductor.area_mm2 ?? 2.5) * 0.28) + (lit ? 0.9 : 0);
  const pale = /white|black/.test(conductor.colour) && !live;
  const line = { points, fill: "none", strokeLinejoin: "round" } as const;
  return (
    <g data-wire={conductor.id} data-state={state} className={cx(dimmed && "opacity-15")}>
      <polyline
        {...line}
        stroke={pale ? "var(--soft)" : "var(--sheet)"}
        strokeWidth={wide + 0.6}
        pointerEvents="none"
      />
      <polyline
        {...line}
        stroke={live ? (hot ? "var(--fail)" : "var(--pass)") : paintOf(conductor.colour)}
        strokeWidth={live && hot ? wide + 0.5 : wide}
        strokeDasharray={live && !hot ? "0.1 2.2" : undefined}
        strokeLinecap="round"
        pointerEvents="none"
      />
      {!live && isStriped(conductor.colour) && (
        <polyline
          {...line}
          stroke={STRIPE}
          strokeWidth={wide * 0.5}
          strokeDasharray="4 4"
          pointerEvents="none"
        />
      )}
      {onLight && (
        <polyline
          {...line}
          stroke="transparent"
          strokeWidth={2}
          pointerEvents="stroke"
          onPointerEnter={() => onLight(conductor.id)}
        />
      )}
    </g>
  );
}
