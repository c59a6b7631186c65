import type { CircuitRoute, Drawing, PlanPoint } from "../api/client";
import type { Plan } from "../job/planWithout";
import { say } from "../messages/say";

/** A step of the arrow keys [m]. */
export const STEP_M = 0.1;
/** The width of a house up to which symbols are drawn at their own size [m]. */
const LEGIBLE_M = 14;
/** Around the rooms of a floor [m]. */
const MARGIN_M = 0.6;

export type Place = readonly [number, number];

/** What a floor is called. */
export const levelName = (drawing: Drawing, level: number) => say(drawing.names[level] ?? String(level));

/**
 * The box round the rooms of a floor, or of all floors, and how a place is put into it and taken from it: y is upwards on the plan and downwards on the
 * screen. `large`: how much larger symbols and letters are than at their size in the house, so that they are legible in a large one.
 */
export function frameOf(drawing: Drawing, level?: number) {
  const rooms = drawing.rooms.filter((room) => level === undefined || room.level === level);
  const corners = rooms.flatMap((room) => room.corners);
  const xs = corners.map(([x]) => x);
  const ys = corners.map(([, y]) => y);
  const [left, right] = [Math.min(...xs) - MARGIN_M, Math.max(...xs) + MARGIN_M];
  const [low, high] = [Math.min(...ys) - MARGIN_M, Math.max(...ys) + MARGIN_M];
  return {
    width: right - left,
    height: high - low,
    large: Math.min(2, Math.max(1, (right - left) / LEGIBLE_M)),
    put: ([x, y]: Place): Place => [x - left, high - y],
    /** The place of the plan that is at a place of the drawing. */
    take: ([x, y]: Place): Place => [x + left, high - y],
  };
}

/** A point moved by arrow keys: along its wall, or under the ceiling; undefined where the key moves nothing. */
export function moved(point: PlanPoint, key: string): PlanPoint | undefined {
  const dx = { ArrowRight: 1, ArrowLeft: -1 }[key] ?? 0;
  const dy = { ArrowUp: 1, ArrowDown: -1 }[key] ?? 0;
  const step = (value: number, by: number) => Math.max(0, Math.round((value + by * STEP_M) * 100) / 100);
  if (point.wall) {
    const by = point.wall === "front" || point.wall === "back" ? dx : dy;
    return by ? { ...point, along_m: step(point.along_m ?? 0, by) } : undefined;
  }
  return dx || dy ? { ...point, x_m: step(point.x_m ?? 0, dx), y_m: step(point.y_m ?? 0, dy) } : undefined;
}

/** The plan with another point in the place of one. */
export function withPoint(plan: Plan, point: PlanPoint): Plan {
  return { ...plan, points: (plan.points ?? []).map((each) => (each.id === point.id ? point : each)) };
}

/** The plan with another decision of how a circuit runs. */
export function withRoute(plan: Plan, circuit: string, more: Partial<CircuitRoute>): Plan {
  const routes = plan.routes ?? [];
  const before = routes.find((route) => route.circuit === circuit) ?? { circuit };
  return {
    ...plan,
    routes: [...routes.filter((route) => route.circuit !== circuit), { ...before, ...more } as CircuitRoute],
  };
}

type Pin = NonNullable<CircuitRoute["pinned"]>[number];
type Ends = { a: string; b: string };

/** What is pinned of a section, from whichever end. */
export function pinOf(route: CircuitRoute | undefined, a: string, b: string): Pin | undefined {
  return route?.pinned?.find((pin) => (pin.a === a && pin.b === b) || (pin.a === b && pin.b === a));
}

/** The pinned paths of a route with another decision for one section; a pin that decides nothing is gone. */
export function withPin(
  route: CircuitRoute | undefined,
  { a, b }: Ends,
  more: Partial<Pick<Pin, "way" | "first">>,
): Partial<CircuitRoute> {
  const before = pinOf(route, a, b);
  const rest = (route?.pinned ?? []).filter((pin) => pin !== before);
  const made = { ...(before ?? { a, b, way: null, first: null }), ...more };
  return { pinned: made.way || made.first ? [...rest, made] : rest };
}
