import { describe, expect, test } from "vitest";
import type { Circuit, RuleSetView } from "../api/client";
import { pasted } from "./pasting";

const rules = {
  size_unit: "mm²",
  devices: [
    { id: "rcbo", short: "RCBO", title: "RCBO", curves: ["B", "C"], ratings_a: [6, 16, 32], current: true },
  ],
  cables: [
    {
      id: "flat",
      short: "flat",
      cpc_choices: ["included"],
      sizes: [
        { area_mm2: 2.5, label: "2.5" },
        { area_mm2: 4, label: "4" },
      ],
      sizes_mm2: [2.5, 4],
    },
  ],
  methods: [{ id: "C", short: "C", entry_words: ["surface"] }],
} as unknown as RuleSetView;

const circuit = (id: string, sections = 1) =>
  ({
    id,
    name: id,
    kind: "fixed",
    cable: { type: "flat", area_mm2: 2.5 },
    device: { kind: "rcbo", curve: "B", rating_a: 16 },
    run: Array.from({ length: sections }, () => ({ length_m: 9, method: "C" })),
  }) as unknown as Circuit;

const lengths = (circuits: Circuit[]) => circuits.map((circuit) => circuit.run[0]?.length_m);

describe("cells from a spreadsheet", () => {
  test("go down from the cursor, each as if it were typed", () => {
    const result = pasted([circuit("a"), circuit("b")], ["length", "method"], [["14,5"], ["20 m"]], rules);
    if ("error" in result) throw new Error(result.error);
    expect(lengths(result.circuits)).toEqual([14.5, 20]);
    expect(result.cells).toBe(2);
  });
  test("go right over the columns that can be typed over", () => {
    const result = pasted([circuit("a")], ["device", "cable", "length"], [["C32", "4", "7"]], rules);
    if ("error" in result) throw new Error(result.error);
    const [one] = result.circuits;
    expect(one?.device).toMatchObject({ curve: "C", rating_a: 32 });
    expect(one?.cable).toMatchObject({ area_mm2: 4 });
    expect(lengths(result.circuits)).toEqual([7]);
  });
  test("leave a circuit alone where the cell is empty", () => {
    const result = pasted([circuit("a"), circuit("b")], ["length"], [[""], ["5"]], rules);
    if ("error" in result) throw new Error(result.error);
    expect(result.circuits.map(({ id }) => id)).toEqual(["b"]);
  });
  test("change nothing where one of them cannot be", () => {
    expect(pasted([circuit("a"), circuit("b")], ["cable"], [["4"], ["7"]], rules)).toMatchObject({
      error: expect.stringContaining("Row 2, b: “7” is not a size"),
    });
    expect(pasted([circuit("a", 2)], ["length"], [["5"]], rules)).toMatchObject({
      error: expect.stringContaining("2 sections"),
    });
  });
  test("change nothing where they do not fit", () => {
    expect(pasted([circuit("a")], ["length"], [["1"], ["2"]], rules)).toEqual({
      error: expect.stringContaining("2 rows were copied"),
    });
    expect(pasted([circuit("a")], ["length"], [["5"]], rules, () => true)).toMatchObject({
      error: expect.stringContaining("plan"),
    });
    expect(pasted([circuit("a")], ["length"], [["1", "2"]], rules)).toEqual({
      error: expect.stringContaining("2 columns were copied"),
    });
  });
});
