import { describe, expect, it } from "vitest";
import type { Problem } from "../api/client";
import { Refused, Unreachable } from "../api/errors";
import { failureOf } from "./saveFailure";

const problem = (more: object = {}) =>
  ({ type: "", title: "t", status: 0, detail: "The disk is full.", problems: [], ...more }) as Problem;

describe("a save that failed", () => {
  it("is tried again where the server or its database will come back, and says why", () => {
    expect(failureOf(new Unreachable()).state).toBe("unreachable");
    for (const status of [503, 507])
      expect(failureOf(new Refused(status, problem()))).toEqual({
        state: "unavailable",
        why: "The disk is full.",
      });
  });

  it("is a conflict where another revision is open, with both sides' changes", () => {
    const told = problem({ head: 4, head_uid: "b2", theirs: ["x"], yours: ["y"] });
    expect(failureOf(new Refused(409, told)).conflict).toEqual({
      head: 4,
      headUid: "b2",
      theirs: ["x"],
      yours: ["y"],
      gone: false,
    });
  });

  it("is a conflict too where the job is gone, so that the document is not lost", () => {
    expect(failureOf(new Refused(404, problem()))).toMatchObject({
      state: "conflict",
      conflict: { gone: true },
    });
  });

  it("is refused otherwise", () => {
    expect(failureOf(new Refused(422, problem())).state).toBe("refused");
    expect(failureOf(new Error("odd"))).toMatchObject({ state: "refused", why: "odd" });
  });
});
