import { describe, expect, it } from "vitest";
import type { Circuit, Job, Remedy } from "../api/client";
import {
  behindRcd,
  boardFedBy,
  freeId,
  freePlaces,
  movedTo,
  onLines,
  placeOf,
  withoutCircuit,
  withRemedy,
} from "./jobModel";

/** Three boards in a row: main feeds sub by f1, sub feeds far by f2; c1 sits in far. */
const job = {
  circuits: [{ id: "f1" }, { id: "f2" }, { id: "c1" }],
  boards: [
    {
      id: "main",
      name: "Main",
      fed_by: "origin",
      way_count: 3,
      ways: [{ number: 1, circuit: "f1", rcd: "g" }],
    },
    {
      id: "sub",
      name: "Sub",
      fed_by: { board: "main", way: 1 },
      way_count: 2,
      ways: [{ number: 1, circuit: "f2" }],
    },
    {
      id: "far",
      name: "Far",
      fed_by: { board: "sub", way: 1 },
      way_count: 1,
      ways: [{ number: 1, circuit: "c1" }],
    },
  ],
} as unknown as Job;

describe("moving a circuit", () => {
  it("goes to any free way, but never behind itself", () => {
    expect(freePlaces(job, "c1")).toEqual([
      { board: "main", way: 2 },
      { board: "main", way: 3 },
      { board: "sub", way: 2 },
    ]);
    expect(freePlaces(job, "f1").map((place) => place.board)).toEqual(["main", "main"]);
    expect(freePlaces(job, "f2").map((place) => place.board)).toEqual(["main", "main", "sub"]);
  });
  it("takes the board it feeds along, and leaves the shared RCD behind", () => {
    const moved = movedTo(job, "f1", { board: "main", way: 3 });
    expect(placeOf(moved, "f1")).toEqual({ board: "main", way: 3 });
    expect(boardFedBy(moved, "f1")?.id).toBe("sub");
    expect(moved.boards?.[0]?.ways).toEqual([{ number: 3, circuit: "f1" }]);
    expect(boardFedBy(moved, "f2")?.id).toBe("far");
  });
  it("leaves every other circuit where it was", () => {
    const moved = movedTo(job, "c1", { board: "main", way: 2 });
    expect([placeOf(moved, "f1"), placeOf(moved, "f2")]).toEqual([placeOf(job, "f1"), placeOf(job, "f2")]);
    expect(moved.boards?.[2]?.ways).toEqual([]);
  });
});

describe("a shared RCD", () => {
  it("is taken and left by one circuit alone", () => {
    expect(behindRcd(job, "f1", null).boards?.[0]?.ways).toEqual([{ number: 1, circuit: "f1", rcd: null }]);
    expect(behindRcd(job, "c1", "g").boards?.[2]?.ways).toEqual([{ number: 1, circuit: "c1", rcd: "g" }]);
    expect(behindRcd(job, "c1", "g").boards?.[0]).toEqual(job.boards?.[0]);
  });
});

describe("taking a circuit out", () => {
  it("is refused while it feeds a board, with the board's name", () => {
    expect(withoutCircuit(job, "f2")).toContain("Far");
    const without = withoutCircuit(job, "c1");
    expect(typeof without === "string" ? without : without.circuits?.map((circuit) => circuit.id)).toEqual([
      "f1",
      "f2",
    ]);
  });
});

describe("a new id", () => {
  it("is one that nothing has yet", () => {
    expect(freeId("c", [{ id: "c1" }, { id: "c3" }])).toBe("c2");
    expect(freeId("c", [])).toBe("c1");
  });
});

describe("a circuit put on other lines", () => {
  const circuit = {
    id: "c1",
    name: "Oven",
    kind: "fixed",
    neutral: false,
    lines: ["L1", "L2"],
    loads: [{ name: "Fan", kind: "motor", lines: ["L2"] }],
    run: [{ method: "C" }],
  } as Circuit;
  it("takes its loads off the lines that go, and has a neutral on one line alone", () => {
    const moved = onLines(circuit, ["L1"]);
    expect([moved.lines, moved.loads?.[0]?.lines, moved.neutral]).toEqual([["L1"], [], true]);
  });
  it("keeps what still holds", () => {
    const moved = onLines(circuit, ["L2", "L3"]);
    expect([moved.lines, moved.loads?.[0]?.lines, moved.neutral]).toEqual([["L2", "L3"], ["L2"], false]);
  });
});

describe("a fix that is taken", () => {
  const fix = (part: Partial<Remedy>) => ({ circuits: [], boards: [], ...part }) as unknown as Remedy;
  it("changes the circuits, boards and supply it names and nothing else", () => {
    const supplied = { ...job, supply: { ze_ohm: 0.3 } } as unknown as Job;
    const board = { ...job.boards?.[1], name: "Larger" } as never;
    const boards = withRemedy(supplied, fix({ boards: [board] }));
    expect(boards.boards?.map(({ name }) => name)).toEqual(["Main", "Larger", "Far"]);
    expect(boards.supply).toBe(supplied.supply);
    const tails = { ze_ohm: 0.3, tails: { area_mm2: 25 } } as never;
    expect(withRemedy(supplied, fix({ supply: tails })).supply).toEqual(tails);
    expect(withRemedy(supplied, fix({})).circuits).toEqual(supplied.circuits);
  });
});
