import type { DrawnPoint } from "../api/client";
import type { Place } from "./planModel";

/** A line through places of the plan, whose y is upwards. */
export const linePath = (places: readonly Place[], put: (place: Place) => Place = ([x, y]) => [x, -y]) =>
  places.map((place, index) => `${index ? "L" : "M"}${put(place).join(" ")}`).join(" ");

/** The symbol of a point about its place. */
export function PointSymbol({ point }: { point: DrawnPoint }) {
  return (
    <path
      d={point.strokes.map((stroke) => linePath(stroke)).join(" ")}
      fill="none"
      stroke="currentColor"
      strokeWidth={0.035}
    />
  );
}
