import { t } from "../messages/text";
import type { components } from "./schema";

type Problem = components["schemas"]["Problem"] | components["schemas"]["ConflictProblem"];

/** What the server refused, and why, as one error that a person can read. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail || problem.title);
  }
}

/** The server did not answer at all. */
export class Unreachable extends Error {
  constructor() {
    super(t("web.error.no_response"));
  }
}
