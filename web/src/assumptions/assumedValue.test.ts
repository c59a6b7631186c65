import { describe, expect, it } from "vitest";
import type { Job } from "../api/client";
import { withValue } from "./assumedValue";

const job = {
  supply: { ze_ohm: 0.35, earthing: { bonds: [{ name: "Water pipe", area_mm2: 10 }] } },
  circuits: [{ id: "c1", run: [{ length_m: 20 }] }],
} as unknown as Job;

describe("a value typed over an assumed one", () => {
  it("is put where the assumption says, and nothing else changes", () => {
    const changed = withValue(job, "circuits.c1.run.0.length_m", 12);
    expect(changed.circuits?.[0]?.run?.[0]?.length_m).toBe(12);
    expect(changed.supply).toBe(job.supply);
    expect(withValue(job, "supply.ze_ohm", 0.2).supply.ze_ohm).toBe(0.2);
    expect(withValue(job, "supply.earthing.bonds.0.area_mm2", 6).supply.earthing?.bonds?.[0]?.area_mm2).toBe(
      6,
    );
  });

  it("is not put anywhere where the path leads nowhere", () => {
    expect(withValue(job, "circuits.c9.run.0.length_m", 12)).toEqual(job);
    expect(withValue(job, "supply.no_such.field", 12)).toEqual(job);
  });
});
