import { describe, expect, it } from "vitest";
import type { JobLine } from "../api/client";
import { found } from "./jobsModel";

const job = {
  title: "Mill, pottery",
  client: "A. Weir",
  site: "Race Lane",
  changed: "Kiln: 6 → 10 mm²",
} as JobLine;

describe("search for a job", () => {
  it("finds by words of any part, in any order and case", () => {
    for (const search of ["", "mill", "race WEIR", "kiln 10", "  pottery  "])
      expect(found(job, search)).toBe(true);
  });
  it("needs every word", () => {
    for (const search of ["mill garage", "weird", "12 mm"]) expect(found(job, search)).toBe(false);
  });
});
