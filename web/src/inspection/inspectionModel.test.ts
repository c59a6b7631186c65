import { describe, expect, it } from "vitest";
import type { CataloguedObservation, Job } from "../api/client";
import { matching, subjectsOf, withChanged, withObservation } from "./inspectionModel";

const entry = (id: string, title: string, code = "C2") =>
  ({ id, title, code, reason: "Fire.", clause: "526" }) as CataloguedObservation;
const CATALOGUE = [
  entry("a", "RCD does not trip"),
  entry("b", "No RCD"),
  entry("c", "Heat marks at terminals", "C1"),
];
const JOB = { boards: [{ id: "main", name: "Board" }], circuits: [{ id: "c1", name: "Kiln" }] } as Job;

describe("observations", () => {
  it("are found by any words, in any order, those that begin with the first one before the others", () => {
    expect(matching(CATALOGUE, "rcd").map(({ id }) => id)).toEqual(["a", "b"]);
    expect(matching(CATALOGUE, "terminals HEAT").map(({ id }) => id)).toEqual(["c"]);
    expect(matching(CATALOGUE, "c1 fire").map(({ id }) => id)).toEqual(["c"]);
    expect(matching(CATALOGUE, "  ")).toEqual([]);
    expect(matching(CATALOGUE, "ivy")).toEqual([]);
  });

  it("are added with an id of their own, changed and deleted", () => {
    const two = withObservation(withObservation(JOB, { kind: "a" }), { text: "Ivy" });
    expect(two.inspection?.observations?.map(({ id }) => id)).toEqual(["obs-1", "obs-2"]);
    const changed = withChanged(two, "obs-2", { code: "C3" });
    expect(changed.inspection?.observations?.[1]).toMatchObject({ text: "Ivy", code: "C3" });
    const one = withChanged(changed, "obs-1", null);
    expect(withObservation(one, {}).inspection?.observations?.map(({ id }) => id)).toEqual([
      "obs-2",
      "obs-1",
    ]);
  });

  it("may be of the installation, a board or a circuit", () => {
    expect(subjectsOf(JOB, "Installation").map(({ value }) => value)).toEqual(["", "main", "c1"]);
  });
});
