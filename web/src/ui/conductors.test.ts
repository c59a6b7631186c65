import { expect, test } from "vitest";
import defaults from "../api/defaults.json";
import { isStriped, paintOf, swatchOf } from "./conductors";

test("a colour is painted by the first colour it names, the longer word first", () => {
  expect(paintOf("dark blue")).toBe(defaults.paints["dark blue"]);
  expect(paintOf("blue")).toBe(defaults.paints.blue);
  expect(paintOf("black or light blue")).toBe(defaults.paints.black);
  expect(paintOf("green or bare")).toBe(defaults.paints.green);
});

test("what names no colour is drawn in the ink", () => {
  expect(paintOf("")).toBe("var(--ink)");
  expect(paintOf("as on the drum")).toBe("var(--ink)");
});

test("only green and yellow has a second stripe", () => {
  expect(isStriped("green-yellow or bare")).toBe(true);
  expect(isStriped("yellow")).toBe(false);
  expect(swatchOf("green-yellow")).toContain(defaults.paints.yellow);
  expect(swatchOf("brown")).toBe(defaults.paints.brown);
});
