import { describe, expect, test } from "vitest";
import type { TableAnswer } from "../api/client";
import { chosen, fieldsByColumn, isTable, lacking, mappingOf, pastedRows } from "./takeInModel";

const answer: TableAnswer = {
  table: { heads: ["Description", "Length", "Colour"], rows: [["Cooker", "14", "white"]], first_row: 2 },
  fields: [
    { id: "name", title: "Circuit", needed: true },
    { id: "length_m", title: "Length, m", needed: false },
  ],
  mapping: { name: 0, length_m: 1 },
};

describe("columns of a table", () => {
  test("the mapping goes there and back", () => {
    const fields = fieldsByColumn(answer);
    expect(fields).toEqual(["name", "length_m", ""]);
    expect(mappingOf(fields)).toEqual(answer.mapping);
  });
  test("a field stands for one column only", () => {
    expect(chosen(["name", "length_m", ""], 2, "name")).toEqual(["", "length_m", "name"]);
    expect(chosen(["name", "length_m", ""], 1, "")).toEqual(["name", "", ""]);
  });
  test("what is needed and not there is named", () => {
    expect(lacking(answer, ["", "length_m", ""])).toEqual(["Circuit"]);
    expect(lacking(answer, ["name", "", ""])).toEqual([]);
  });
});

describe("what was pasted", () => {
  test("rows and cells, whatever ends the lines", () => {
    expect(pastedRows("14\r\n15.5\r\n")).toEqual([["14"], ["15.5"]]);
    expect(pastedRows("B32\t6\nB16\t2.5")).toEqual([
      ["B32", "6"],
      ["B16", "2.5"],
    ]);
  });
  test("one cell is no table", () => {
    expect(isTable("14\n")).toBe(false);
    expect(isTable("14\n15")).toBe(true);
    expect(isTable("a\tb")).toBe(true);
  });
});
