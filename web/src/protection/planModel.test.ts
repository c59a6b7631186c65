import { describe, expect, it } from "vitest";
import type { Board, RcdPlan } from "../api/client";
import { largest, letterOf, waysOf, weightAt } from "./planModel";

const board = {
  ways: [
    { number: 3, circuit: "c3" },
    { number: 1, circuit: "c1" },
    { number: 2, circuit: "c2" },
    { number: 4, circuit: "c4" },
  ],
} as Board;
const plan = {
  job: {},
  worst_loss: 9,
  cost: 120,
  modules: 7,
  groups: [
    { name: "RCBO kiln", shared: false, circuits: ["c2"] },
    { name: "RCD 1", shared: true, circuits: ["c1"] },
    { name: "RCD 2", shared: true, circuits: ["c3"] },
  ],
} as unknown as RcdPlan;

describe("a plan on the board", () => {
  it("has each way behind its device, in the order of the ways", () => {
    expect(waysOf(plan, board).map(({ way, group }) => [way, group])).toEqual([
      [1, 0],
      [2, "own"],
      [3, 1],
      [4, "none"],
    ]);
    expect([0, 1, 25].map(letterOf)).toEqual(["A", "B", "Z"]);
  });

  it("is drawn against the largest of those that are possible", () => {
    const other = { ...plan, job: null, cost: 900 } as RcdPlan;
    expect(largest([plan, other])).toEqual({ worst_loss: 9, cost: 120, modules: 7 });
    expect(largest([])).toEqual({ worst_loss: 1, cost: 1, modules: 1 });
  });

  it("weighs nothing at the beginning of a slider and the usual in its middle", () => {
    expect([0, 1, 2, 3, 4].map((level) => weightAt(level, 100))).toEqual([0, 25, 100, 400, 1600]);
  });
});
