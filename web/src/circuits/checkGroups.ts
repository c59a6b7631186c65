import type { Finding, RuleSetView, Verdict } from "../api/client";

/** What the lattice shows at a time: what the cable needs, or what protects people and the rest of the house. */
export type Face = "sizing" | "protection";

export const FACES: readonly { face: Face; title: string }[] = [
  { face: "sizing", title: "Cable" },
  { face: "protection", title: "Protection" },
];

/** The checks of a face, in the order people work. */
export const checksOf = (rules: RuleSetView, face: Face) =>
  rules.checks.filter((check) => check.group === face);

/** The face that a check stands on. */
export const faceOf = (rules: RuleSetView, check: string): Face =>
  rules.checks.find((one) => one.id === check)?.group ?? "sizing";

export const otherFace = (face: Face): Face => (face === "sizing" ? "protection" : "sizing");

const TROUBLE: readonly Verdict[] = ["fail", "missing", "advice"];

/** The worst trouble among some findings, and how many have it; undefined where there is none. */
export function worstTrouble(
  findings: readonly (Finding | undefined)[],
): { verdict: Verdict; count: number } | undefined {
  for (const verdict of TROUBLE) {
    const count = findings.filter((finding) => finding?.verdict === verdict).length;
    if (count) return { verdict, count };
  }
  return undefined;
}
