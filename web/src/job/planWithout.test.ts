import { describe, expect, it } from "vitest";
import type { Job } from "../api/client";
import { withoutCircuit } from "./jobModel";
import { planWithoutBoard, planWithoutRoom } from "./planWithout";

const job = {
  circuits: [{ id: "c1" }, { id: "c2" }],
  boards: [{ id: "main", fed_by: "origin", ways: [] }],
  plan: {
    rooms: [{ room: "hall" }, { room: "den" }],
    points: [
      { id: "p", room: "hall", circuit: "c1", plate: null },
      { id: "q", room: "den", circuit: "c2", plate: "p" },
    ],
    switching: [{ lights: ["q"], switches: ["p"] }],
    boards: [{ board: "main", room: "hall" }],
    routes: [
      { circuit: "c1", order: ["p"] },
      { circuit: "c2", order: ["q"], pinned: [{ a: "p", b: "q", way: "floor", first: null }] },
    ],
  },
} as unknown as Job;

describe("a plan", () => {
  it("keeps the points of a circuit that is deleted, without one", () => {
    const less = withoutCircuit(job, "c1") as Job;
    expect(less.plan?.points?.map(({ circuit }) => circuit)).toEqual([null, "c2"]);
    expect(less.plan?.routes?.map(({ circuit }) => circuit)).toEqual(["c2"]);
  });

  it("loses a room with all that is in it", () => {
    const { plan } = planWithoutRoom(job, "hall");
    expect(plan?.rooms).toHaveLength(1);
    expect(plan?.points).toEqual([{ id: "q", room: "den", circuit: "c2", plate: null }]);
    expect([plan?.switching, plan?.boards]).toEqual([[], []]);
    expect(plan?.routes?.[1]?.pinned).toEqual([]);
  });

  it("loses the place of a board", () => {
    expect(planWithoutBoard(job, "main").plan?.boards).toEqual([]);
  });
});
