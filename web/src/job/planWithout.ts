import type { Job } from "../api/client";

export type Plan = NonNullable<Job["plan"]>;

/** The plan without some points: out of their groups of switches and lights too, which go where either is empty, and out of pinned orders. */
export function withoutPoints(plan: Plan, gone: ReadonlySet<string>): Plan {
  const rest = (ids: readonly string[]) => ids.filter((each) => !gone.has(each));
  return {
    ...plan,
    points: (plan.points ?? [])
      .filter((point) => !gone.has(point.id))
      // What shared a plate has one of its own then.
      .map((point) => (point.plate && gone.has(point.plate) ? { ...point, plate: null } : point)),
    switching: (plan.switching ?? [])
      .map((group) => ({ ...group, lights: rest(group.lights), switches: rest(group.switches) }))
      .filter((group) => group.lights.length > 0 && group.switches.length > 0),
    routes: (plan.routes ?? []).map((route) => ({
      ...route,
      order: rest(route.order ?? []),
      pinned: (route.pinned ?? []).filter((pin) => !gone.has(pin.a) && !gone.has(pin.b)),
    })),
  };
}

/** The document with nothing on its plan that belongs to a circuit: its points stay, without one. */
export function planWithoutCircuit(job: Job, id: string): Job {
  if (!job.plan) return job;
  const points = (job.plan.points ?? []).map((point) =>
    point.circuit === id ? { ...point, circuit: null } : point,
  );
  const routes = (job.plan.routes ?? []).filter((route) => route.circuit !== id);
  return { ...job, plan: { ...job.plan, points, routes } };
}

/** The document without the place of a board on its plan. */
export function planWithoutBoard(job: Job, id: string): Job {
  if (!job.plan) return job;
  return {
    ...job,
    plan: { ...job.plan, boards: (job.plan.boards ?? []).filter((place) => place.board !== id) },
  };
}

/** The document without a room on its plan, and what is in it. */
export function planWithoutRoom(job: Job, id: string): Job {
  if (!job.plan) return job;
  const inside = (job.plan.points ?? []).filter((point) => point.room === id).map((point) => point.id);
  const plan = withoutPoints(job.plan, new Set(inside));
  return {
    ...job,
    plan: {
      ...plan,
      rooms: (plan.rooms ?? []).filter((shape) => shape.room !== id),
      boards: (plan.boards ?? []).filter((place) => place.room !== id),
    },
  };
}
