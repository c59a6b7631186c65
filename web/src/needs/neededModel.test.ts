import { describe, expect, it } from "vitest";
import type { Job } from "../api/client";
import { neededNumber, neededYesNo, viewOfNeed } from "./neededModel";

const document = {
  supply: { tails: null },
  boards: [
    { id: "barn", earthing: { kind: "electrode" } },
    {
      id: "main",
      spds: [
        { id: "s1", leads_m: 0.3 },
        { id: "s2", leads_m: null },
      ],
    },
  ],
  circuits: [{ id: "c1", run: [{ length_m: 4 }, { length_m: null }] }],
} as unknown as Job;

describe("a value that is missing", () => {
  it("is typed into its field", () => {
    expect(neededNumber(document, "supply.ze_ohm", undefined)).toEqual({ field: "supply.ze_ohm", unit: "Ω" });
    expect(neededNumber(document, "run.length_m", { kind: "circuit", id: "c1" })).toEqual({
      field: "circuits.c1.run.1.length_m",
      unit: "m",
    });
    expect(neededNumber(document, "boards.spds.leads_m", undefined)?.field).toBe(
      "boards.main.spds.s2.leads_m",
    );
  });

  it("is answered in place where it is of an earth of its own", () => {
    const barn = { kind: "board", id: "barn" } as const;
    expect(neededNumber(document, "boards.earthing.electrode_ohm", barn)).toEqual({
      field: "boards.barn.earthing.electrode_ohm",
      unit: "Ω",
    });
    expect(neededYesNo(document, "boards.earthing.has_metalwork", barn)).toBe(
      "boards.barn.earthing.has_metalwork",
    );
    expect(
      neededYesNo(document, "boards.earthing.has_metalwork", { kind: "board", id: "main" }),
    ).toBeUndefined();
    expect(neededNumber(document, "boards.earthing", barn)).toBeUndefined();
  });

  it("has no box where it is no number, or what it belongs to is not there", () => {
    for (const path of ["supply.cutout", "supply.tails.length_m", "loads.room"])
      expect(neededNumber(document, path, undefined)).toBeUndefined();
    expect(neededNumber(document, "run.length_m", { kind: "circuit", id: "c9" })).toBeUndefined();
  });

  it("has a view", () => {
    expect(
      ["supply.cutout", "boards.build.enclosure", "surge.consequence", "loads.room", "event.rcd"].map(
        viewOfNeed,
      ),
    ).toEqual(["setup", "board", "protection?part=surge", "circuits", undefined]);
  });
});
