import type { Board, RcdPlan } from "../api/client";

/** What a way of the board is behind in a plan: a shared device by its number from 0, its own device, or none. */
export type WayInPlan = { way: number; circuit: string; group: number | "own" | "none" };

/** The ways of a board in a plan, in their order. */
export function waysOf(plan: RcdPlan, board: Board): WayInPlan[] {
  const shared = plan.groups.filter((group) => group.shared);
  const own = new Set(plan.groups.filter((group) => !group.shared).flatMap((group) => group.circuits));
  return [...(board.ways ?? [])]
    .sort((a, b) => a.number - b.number)
    .map(({ number, circuit }) => {
      const at = shared.findIndex((group) => group.circuits.includes(circuit));
      return { way: number, circuit, group: at >= 0 ? at : own.has(circuit) ? "own" : "none" };
    });
}

/** The letter of a shared device on the strip: A, B, C. */
export const letterOf = (group: number): string => String.fromCharCode(65 + (group % 26));

/** The largest of each value over all plans that are possible, which the bars are drawn against. */
export function largest(plans: RcdPlan[]): Pick<RcdPlan, "worst_loss" | "cost" | "modules"> {
  const possible = plans.filter((plan) => plan.job);
  const most = (of: (plan: RcdPlan) => number) => Math.max(1, ...possible.map(of));
  return {
    worst_loss: most((plan) => plan.worst_loss),
    cost: most((plan) => plan.cost),
    modules: most((plan) => plan.modules),
  };
}

/** Positions of a slider; the middle one is the usual weight. */
export const LEVELS = 5;
const MIDDLE = 2;
/** How much more a step counts. */
const STEP = 4;

/** The weight at a position of a slider: 0 at its beginning, the usual in the middle, sixteen times that at its end. */
export const weightAt = (level: number, usual: number): number =>
  level === 0 ? 0 : usual * STEP ** (level - MIDDLE);
