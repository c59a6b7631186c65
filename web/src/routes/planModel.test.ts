import { describe, expect, it } from "vitest";
import type { Drawing, PlanPoint } from "../api/client";
import { type Plan, withoutPoints } from "../job/planWithout";
import { boxRows } from "./boxRows";
import { frameOf, levelName, moved, pinOf, withPin, withPoint, withRoute } from "./planModel";

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
    const less = withoutPoints(plan, new Set(["b"]));
    expect(less.points?.map(({ id }) => id)).toEqual(["a"]);
    expect(less.switching).toEqual([]);
    expect(less.routes?.[0]?.order).toEqual(["a"]);
    expect(withoutPoints(plan, new Set(["c"])).switching?.[0]?.switches).toEqual(["a"]);
  });

  it("keeps one decision a circuit", () => {
    const changed = withRoute(withRoute(plan, "c1", { way: "floor" }), "c2", { shape: "branch" });
    expect(changed.routes).toHaveLength(2);
    expect(changed.routes?.[0]).toMatchObject({ circuit: "c1", way: "floor", order: ["a", "b"] });
  });

  it("keeps one pin a section, from whichever end, and none that decides nothing", () => {
    const floor = { circuit: "c1", ...withPin(undefined, { a: "a", b: "b" }, { way: "floor" }) };
    expect(pinOf(floor as never, "b", "a")?.way).toBe("floor");
    const turned = { circuit: "c1", ...withPin(floor as never, { a: "b", b: "a" }, { first: "x" }) };
    expect(turned.pinned).toEqual([{ a: "a", b: "b", way: "floor", first: "x" }]);
    const none = withPin(turned as never, { a: "a", b: "b" }, { way: null, first: null });
    expect(none.pinned).toEqual([]);
  });

  it("has a row for each conductor of a box and the nets from line to protective conductor", () => {
    const sections = [
      { a: "feed", b: "x", carries: ["L", "N", "PE"] },
      { a: "x", b: "s", carries: ["L", "SL", "PE"] },
      { a: "y", b: "z", carries: ["L"] },
    ];
    const devices = [{ name: "light", terminals: ["SL", "N", "PE"] }];
    const { left, right, nets } = boxRows({ sections } as never, { box: "x", devices });
    expect(left.map(({ of }) => of)).toEqual(["feed", "feed", "feed", "s", "s", "s"]);
    expect(right).toHaveLength(3);
    expect(nets).toEqual(["L", "SL", "N", "PE"]);
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
      names: { 0: "Ground floor", 1: "Attic" },
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
    expect(levelName(drawing, 1)).toBe("Attic");
  });
});
