import { describe, expect, it } from "vitest";
import type { Matrix, PairResult } from "../api/client";
import { STATUSES, sides, worstPair } from "./selectivityModel";

const pair = (up: string, down: string, status: PairResult["status"], upto_a?: number, fault_a = 1000) =>
  ({ up, down, status, upto_a, fault_a }) as PairResult;
const matrix = {
  devices: ["cutout", "f1", "c1", "c1-plug"].map((id) => ({
    id,
    name: id,
    where: "",
    outlet: id.endsWith("plug"),
  })),
  pairs: [
    pair("cutout", "f1", "typical"),
    pair("cutout", "c1", "partial", 800),
    pair("f1", "c1", "partial", 250),
    pair("c1", "c1-plug", "none", 50),
  ],
  bands: [],
} as unknown as Matrix;

describe("the matrix of devices", () => {
  it("has those ahead as columns and those behind as rows", () => {
    const { ups, downs } = sides(matrix);
    expect(ups.map((device) => device.id)).toEqual(["cutout", "f1", "c1"]);
    expect(downs.map((device) => device.id)).toEqual(["f1", "c1", "c1-plug"]);
  });
  it("looks first at the pair that reaches least far, and not at a fuse in a plug", () => {
    expect(worstPair(matrix)).toMatchObject({ up: "f1", down: "c1" });
    expect(worstPair({ ...matrix, pairs: [] })).toBeUndefined();
  });
  it("tells every status by a sign of its own", () => {
    const marks = Object.values(STATUSES).map((status) => status.mark);
    expect(new Set(marks).size).toBe(marks.length);
  });
});
