import type { Finding, RuleSetView, Verdict } from "../api/client";
import { t } from "../messages/text";
import { type Edit, shownVerdict } from "./gridModel";

/** What the grid shows at a time: what the cable needs, or what protects people and the rest of the house. */
export type CheckGroup = RuleSetView["checks"][number]["group"];

export const CHECK_GROUPS: readonly { group: CheckGroup; title: string }[] = [
  {
    group: "sizing",
    get title() {
      return t("web.circuits.groups.sizing");
    },
  },
  {
    group: "protection",
    get title() {
      return t("web.circuits.groups.protection");
    },
  },
];

/** The checks of a group, in the order people work. */
export const checksOf = (rules: RuleSetView, group: CheckGroup) =>
  rules.checks.filter((check) => check.group === group);

/** The group of a check. */
export const groupOf = (rules: RuleSetView, check: string): CheckGroup =>
  rules.checks.find((known) => known.id === check)?.group ?? "sizing";

export const otherGroup = (group: CheckGroup): CheckGroup => (group === "sizing" ? "protection" : "sizing");

/** The check to show beside a column that is typed over: the one that it is decided by first. */
export const checkBeside = (checks: RuleSetView["checks"], edit: Edit | undefined) =>
  checks.find((check) => check.decides.includes(edit ?? "device")) ?? checks[0];

const TROUBLE: readonly Verdict[] = ["fail", "missing", "advice"];

/** The worst trouble among some findings, and how many have it; undefined where there is none. */
export function worstTrouble(
  findings: readonly (Finding | undefined)[],
): { verdict: Verdict; count: number } | undefined {
  for (const verdict of TROUBLE) {
    const count = findings.filter((finding) => shownVerdict(finding) === verdict).length;
    if (count) return { verdict, count };
  }
  return undefined;
}
