import { describe, expect, it } from "vitest";
import type { Finding, RuleSetView } from "../api/client";
import { checksOf, otherGroup, worstTrouble } from "./checkGroups";

const finding = (verdict: Finding["verdict"]) => ({ verdict }) as Finding;

describe("the faces of the lattice", () => {
  it("part the checks without losing one", () => {
    const rules = {
      checks: [
        { id: "a", group: "sizing" },
        { id: "b", group: "protection" },
        { id: "c", group: "sizing" },
      ],
    } as RuleSetView;
    expect(checksOf(rules, "sizing").map((check) => check.id)).toEqual(["a", "c"]);
    expect(checksOf(rules, otherGroup("sizing")).map((check) => check.id)).toEqual(["b"]);
  });
  it("say the worst trouble and how often it is met", () => {
    expect(worstTrouble([finding("pass"), undefined, finding("tight")])).toBeUndefined();
    expect(worstTrouble([finding("advice"), finding("fail"), finding("fail")])).toEqual({
      verdict: "fail",
      count: 2,
    });
    expect(worstTrouble([finding("advice"), finding("missing")])?.verdict).toBe("missing");
  });
});
