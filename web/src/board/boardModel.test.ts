import { describe, expect, it } from "vitest";
import type { BoardView, Conductor, DeviceView } from "../api/client";
import { asMade, madeAs, placeAt, placeByKey } from "./boardModel";

const rail = {
  form: "rail",
  step_mm: 18,
  rows: [
    { x: 40, y: 20, w: 216, h: 85 },
    { x: 40, y: 170, w: 216, h: 85 },
  ],
} as unknown as BoardView;
const panel = {
  form: "panelboard",
  step_mm: 25.4,
  rows: [
    { x: 105, y: 170, w: 76, h: 254 },
    { x: 189, y: 170, w: 76, h: 254 },
  ],
} as unknown as BoardView;
const unit = {
  row: 1,
  offset_modules: 4,
  wide: 2,
  box: { x: 112, y: 20, w: 36, h: 85 },
} as unknown as DeviceView;

describe("where a device is dropped", () => {
  it("is the nearest half module of the nearest row", () => {
    expect(placeAt(rail, unit, 40 + 18 * 3.4, 30)).toEqual({ row: 1, at: 3.5 });
    expect(placeAt(rail, unit, 40 + 18 * 3.1, 160)).toEqual({ row: 2, at: 3 });
  });
  it("never reaches past an end of the row", () => {
    expect(placeAt(rail, unit, -300, 20).at).toBe(0);
    expect(placeAt(rail, unit, 900, 20).at).toBe(10);
  });
  it("goes by whole spaces down a column of a panel", () => {
    expect(placeAt(panel, unit, 200, 170 + 25.4 * 2.6)).toEqual({ row: 2, at: 3 });
  });
});

describe("arrow keys", () => {
  it("move along and across rows, and no further than there are", () => {
    expect(placeByKey(rail, unit, "ArrowRight")).toEqual({ row: 1, at: 5 });
    expect(placeByKey(rail, unit, "ArrowDown")).toEqual({ row: 2, at: 4 });
    expect(placeByKey(rail, unit, "ArrowUp")).toBeUndefined();
    expect(placeByKey(rail, unit, "Enter")).toBeUndefined();
  });
  it("run down the columns of a panel", () => {
    expect(placeByKey(panel, unit, "ArrowDown")).toEqual({ row: 1, at: 5 });
    expect(placeByKey(panel, unit, "ArrowRight")).toEqual({ row: 2, at: 4 });
  });
});

describe("a conductor", () => {
  const rail = {
    start: { words: "a", terminal: "a/L1/out" },
    end: { words: "b", terminal: "b/L1/in" },
    size: "6 mm²",
    colour: "blue",
    area_mm2: 6,
    corners: [
      { x: 0, y: 0 },
      { x: 0, y: 20 },
      { x: 50, y: 20 },
      { x: 50, y: 0 },
    ],
  } as unknown as Conductor;
  it("is another once its size changes, so that its tick falls", () => {
    const larger = { ...rail, area_mm2: 10, size: "10 mm²" };
    expect(asMade(rail)).not.toBe(asMade(larger));
    expect(madeAs(`a | b | ${asMade(rail)}`, rail)).toBe(true);
    expect(madeAs(asMade(rail), larger)).toBe(false);
  });
});
