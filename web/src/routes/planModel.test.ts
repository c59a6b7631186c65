import { describe, expect, it } from "vitest";
import type { Drawing, PlanPoint } from "../api/client";
import { frameOf, levelName, moved, type Plan, withoutPoint, withPoint, withRoute } from "./planModel";

const onWall = { id: "a", kind: "socket", name: "A", room: "r", wall: "left", along_m: 1 } as PlanPoint;
const above = { id: "b", kind: "light", name: "B", room: "r", x_m: 1, y_m: 0.05 } as PlanPoint;
const plan = {
  points: [onWall, above],
  switching: [{ lights: ["b"], switches: ["a", "c"] }],
  routes: [{ circuit: "c1", order: ["a", "b"] }],
} as unknown as Plan;

describe("a plan", () => {
  it("moves a point along its wall, and one under the ceiling both ways, never out of the room", () => {
    expect(moved(onWall, "ArrowUp")?.along_m).toBe(1.1);
    expect(moved(onWall, "ArrowRight")).toBeUndefined();
    expect(moved(above, "ArrowRight")?.x_m).toBe(1.1);
    expect(moved(above, "ArrowDown")?.y_m).toBe(0);
    expect(moved(above, "x")).toBeUndefined();
    expect(withPoint(plan, { ...onWall, along_m: 2 }).points?.[0]?.along_m).toBe(2);
  });

  it("loses a point everywhere, and its group where nothing is left of it", () => {
    const less = withoutPoint(plan, "b");
    expect(less.points?.map(({ id }) => id)).toEqual(["a"]);
    expect(less.switching).toEqual([]);
    expect(less.routes?.[0]?.order).toEqual(["a"]);
    expect(withoutPoint(plan, "c").switching?.[0]?.switches).toEqual(["a"]);
  });

  it("keeps one decision a circuit", () => {
    const changed = withRoute(withRoute(plan, "c1", { way: "floor" }), "c2", { shape: "branch" });
    expect(changed.routes).toHaveLength(2);
    expect(changed.routes?.[0]).toMatchObject({ circuit: "c1", way: "floor", order: ["a", "b"] });
  });

  it("puts y upwards, with a margin round the rooms of the floor alone", () => {
    const room = (level: number, corners: [number, number][]) => ({
      room: "r",
      name: "R",
      level,
      corners,
      openings: [],
    });
    const drawing = {
      levels: [0, 1],
      rooms: [room(0, [[0, 0], [4, 3]]), room(1, [[0, 0], [40, 30]])],
      points: [],
      sections: [],
    } as unknown as Drawing; // biome-ignore format: a drawing of two rooms
    const frame = frameOf(drawing, 0);
    expect(frame.width).toBeCloseTo(5.2);
    expect(frame.height).toBeCloseTo(4.2);
    const [x, y] = frame.put([0, 3]);
    expect(x).toBeCloseTo(0.6);
    expect(y).toBeCloseTo(0.6);
    expect(levelName(-1)).toBe("Basement 1");
  });
});
