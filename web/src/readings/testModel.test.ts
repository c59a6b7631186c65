import { describe, expect, it } from "vitest";
import type { Job, JudgedReading, PlannedTest, TestingView } from "../api/client";
import { figure, isBad, progress, stepsOf, wallClock, withIsolation, worstByTest } from "./testModel";

const test = (id: string, more: object = {}) =>
  ({ id, step: "s1", board: "main", optional: false, ...more }) as PlannedTest;
const reading = (of: string, verdict: string, more: object = {}) =>
  ({ test: of, verdict, off: verdict === "fail", ...more }) as unknown as JudgedReading;
const view = (tests: PlannedTest[], judged: JudgedReading[]) =>
  ({ plan: { steps: [{ id: "s1" }, { id: "s2" }], tests }, judged }) as unknown as TestingView;

describe("the tests of a plan", () => {
  const tests = [
    test("a"),
    test("b", { board: "sub" }),
    test("c", { optional: true }),
    test("d", { step: "s2" }),
  ];

  it("takes the worst of several points", () => {
    const found = worstByTest([reading("a", "pass"), reading("a", "fail"), reading("a", "tight")]);
    expect(found.get("a")?.verdict).toBe("fail");
  });

  it("shows what is open, without what is optional", () => {
    const open = stepsOf(view(tests, [reading("a", "pass")]), "", "open");
    expect(open.map(({ tests }) => tests.map(({ test }) => test.id))).toEqual([["b"], ["d"]]);
  });

  it("shows the tests of one board, and leaves out steps without any", () => {
    const sub = stepsOf(view(tests, []), "sub", "all");
    expect(sub.map(({ tests }) => tests.map(({ test }) => test.id))).toEqual([["b"]]);
  });

  it("counts what is required", () => {
    expect(progress(view(tests, [reading("a", "fail"), reading("c", "pass")]))).toEqual({ done: 1, all: 3 });
  });

  it("finds what disagrees, whether it passes or not", () => {
    expect(isBad(reading("a", "pass"))).toBe(false);
    expect(isBad(undefined)).toBe(false);
    expect(isBad(reading("a", "pass", { off: true }))).toBe(true);
    expect(isBad(reading("a", "missing"))).toBe(true);
    expect(stepsOf(view(tests, [reading("a", "fail")]), "", "bad")[0]?.tests).toHaveLength(1);
  });
});

describe("small things", () => {
  it("writes three digits", () => {
    expect([0.5333, 1.9, 1236.4, 0, 0.0471].map((value) => figure(value))).toEqual([
      "0.533",
      "1.9",
      "1236",
      "0",
      "0.0471",
    ]);
  });

  it("never flatters a limit", () => {
    expect([
      figure(2.0083, "down"),
      figure(2.009, "down"),
      figure(1.0001, "up"),
      figure(6000, "down"),
    ]).toEqual(["2", "2", "1.01", "6000"]);
  });

  it("reads the clock on the wall", () => {
    expect(wallClock(new Date(2026, 10, 30, 9, 5, 7))).toBe("2026-11-30T09:05:07");
  });

  it("takes back a step of isolation with all after it", () => {
    let job = { testing: { isolation: [] } } as unknown as Job;
    for (const step of [1, 2, 3]) job = withIsolation(job, step, `2026-11-30T09:0${step}:00`, "E. W.");
    expect(job.testing?.isolation?.map((done) => done.step)).toEqual([1, 2, 3]);
    expect(withIsolation(job, 2, null, "").testing?.isolation?.map((done) => done.step)).toEqual([1]);
  });
});
