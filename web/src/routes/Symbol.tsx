import type { DrawnPoint } from "../api/client";
import { turnOf } from "./planModel";

/** The symbol of a point as installation plans have it (IEC 60617): a half circle for an outlet, a circle with a stroke for a switch, a cross
 * for a light. Its middle is at the origin; on a wall it points upwards, into the room. */
export function PointSymbol({ point }: { point: DrawnPoint }) {
  return (
    <g transform={`rotate(${turnOf(point)})`} fill="none" stroke="currentColor" strokeWidth={0.035}>
      {shapeOf(point.kind)}
    </g>
  );
}

function shapeOf(kind: DrawnPoint["kind"]) {
  switch (kind) {
    case "socket":
    case "cooker":
    case "connection-unit":
    case "heater":
    case "shaver":
    case "charger":
    case "shower":
      return (
        <>
          <path d="M -0.14 -0.14 A 0.14 0.14 0 0 1 0.14 -0.14" transform="translate(0,0)" />
          <path d="M 0 -0.28 V -0.36 M -0.14 -0.28 H 0.14" />
          {kind !== "socket" && <circle cx={0} cy={-0.14} r={0.04} fill="currentColor" />}
          <path d="M 0 0 V -0.14" />
        </>
      );
    case "switch":
    case "dimmer":
    case "pull-cord":
    case "sensor":
      return (
        <>
          <circle cx={0} cy={-0.1} r={0.07} fill={kind === "pull-cord" ? "currentColor" : "none"} />
          <path d="M 0.05 -0.15 L 0.2 -0.34 L 0.26 -0.29" />
        </>
      );
    case "board":
      return (
        <>
          <rect x={-0.22} y={-0.18} width={0.44} height={0.18} />
          <path d="M -0.22 0 L 0.22 -0.18" />
        </>
      );
    case "alarm":
      return (
        <>
          <circle r={0.13} />
          <circle r={0.04} fill="currentColor" />
        </>
      );
    case "fan":
      return (
        <>
          <circle r={0.13} />
          <path d="M -0.09 -0.09 L 0.09 0.09 M -0.09 0.09 L 0.09 -0.09" />
        </>
      );
    case "junction-box":
      return <circle r={0.07} fill="currentColor" />;
    case "data":
      return <path d="M -0.12 0 L 0 -0.22 L 0.12 0 Z" />;
    default:
      return <path d="M -0.13 -0.13 L 0.13 0.13 M -0.13 0.13 L 0.13 -0.13" />;
  }
}
