import { describe, expect, it } from "vitest";
import type { Assessment, Job } from "../api/client";
import { begun, fitting, placeText, rcdIds, trimmed, worstLoop } from "./eventModel";

const device = (rcd: boolean) => ({ kind: "x", rating_a: 16, rcd: rcd ? { idn_ma: 30 } : null });
const job = {
  circuits: [
    { id: "f1", kind: "distribution", name: "Feed", device: device(false) },
    { id: "c1", kind: "fixed", name: "Oven", device: device(true) },
    { id: "c2", kind: "fixed", name: "Hob", device: "auto" },
  ],
  boards: [
    {
      id: "main",
      name: "Main",
      main_switch: { rating_a: 100, rcd: { idn_ma: 100 } },
      shared_rcds: [{ id: "g1", name: "Left" }],
      ways: [
        { number: 1, circuit: "f1" },
        { number: 2, circuit: "c1" },
        { number: 3, circuit: "c2" },
      ],
    },
  ],
} as unknown as Job;

describe("an event in a job", () => {
  it("begins with the loop that has the least margin", () => {
    const finding = (id: string, margin: number | null) => ({
      check: "disconnection",
      subject: { kind: "circuit", id },
      margin,
    });
    const assessment = { findings: [finding("c1", 0.4), finding("c2", 0.1), finding("c9", null)] };
    const two = { circuits: [{ id: "c1" }, { id: "c2" }, { id: "c9" }] } as unknown as Job;
    expect(worstLoop(two, assessment as unknown as Assessment)).toBe("c2");
    expect(worstLoop(two, undefined)).toBeUndefined();
  });

  it("begins on the first circuit that feeds loads", () => {
    expect(fitting(job, undefined)).toMatchObject({ kind: "line-earth", circuit: "c1" });
  });
  it("knows residual-current devices by the engine's names", () => {
    expect(rcdIds(job).map((choice) => choice.value)).toEqual(["main:main", "main:g1", "main:c1"]);
  });
  it("lets go of what is no longer there and never names one device twice", () => {
    const stale = {
      ...begun("neutrals-swapped", "gone"),
      other: "gone",
      rcd: "main:g1",
      other_rcd: "main:g1",
    };
    expect(fitting(job, stale)).toMatchObject({
      circuit: "c1",
      other: null,
      rcd: "main:g1",
      other_rcd: "main:main",
    });
  });
  it("asks only for what counts for its kind", () => {
    const kinds = [{ kind: "surge" as const, title: "", fields: ["surge_kv"] }];
    expect(trimmed(fitting(job, begun("surge", "c1")), kinds)).toMatchObject({ circuit: null, rcd: null });
  });
  it("says a place as people do", () => {
    expect([placeText(0), placeText(0.4), placeText(1)]).toEqual([
      "at the board",
      "40 % along the cable",
      "at the end",
    ]);
  });
});
