import { describe, expect, it } from "vitest";
import { AMPS, ampsText, decades, outline, SECONDS, scales, secondsText } from "./bandModel";

describe("logarithmic paper", () => {
  it("gives every decade the same width, and more current further right, more time further up", () => {
    const { x, y } = scales(400, 300, { left: 40, bottom: 20, top: 4 });
    expect(x(1000) - x(100)).toBeCloseTo(x(100) - x(10));
    expect(y(1)).toBeLessThan(y(0.1));
    expect(x(AMPS[0])).toBe(40);
    expect(y(SECONDS[1] * 100)).toBe(4);
  });
  it("has a line a decade within its ends", () => {
    expect(decades([5, 20_000])).toEqual([10, 100, 1000, 10_000]);
  });
  it("draws a band as one closed outline", () => {
    const points = (...pairs: [number, number][]) => pairs.map(([amps, seconds]) => ({ amps, seconds }));
    const lower = points([10, 100], [20, 1]);
    const upper = points([15, 100], [30, 1]);
    expect(outline({ lower, upper })).toEqual([
      [10, 100],
      [20, 1],
      [30, 1],
      [15, 100],
    ]);
  });
  it("writes figures as people say them", () => {
    expect([ampsText(100), ampsText(10_000), secondsText(0.01), secondsText(10)]).toEqual([
      "100 A",
      "10 kA",
      "10 ms",
      "10 s",
    ]);
  });
});
