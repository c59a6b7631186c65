import type { CataloguedObservation, Job } from "../api/client";
import { freeId } from "../job/jobModel";

export type Inspection = NonNullable<Job["inspection"]>;
export type Observation = NonNullable<Inspection["observations"]>[number];

/** The document with a part of its inspection changed. */
export function withInspection(job: Job, part: Partial<Inspection>): Job {
  return { ...job, inspection: { ...job.inspection, ...part } as Inspection };
}

/** The document with an observation more. */
export function withObservation(job: Job, made: Partial<Observation>): Job {
  const before = job.inspection?.observations ?? [];
  const observation = { id: freeId("obs-", before), ...made } as Observation;
  return withInspection(job, { observations: [...before, observation] });
}

/** The document with an observation changed, or without it. */
export function withChanged(job: Job, id: string, part: Partial<Observation> | null): Job {
  const before = job.inspection?.observations ?? [];
  const observations = part
    ? before.map((each) => (each.id === id ? { ...each, ...part } : each))
    : before.filter((each) => each.id !== id);
  return withInspection(job, { observations });
}

/** Entries of the catalogue that hold every word typed, wherever; those whose title begins with it first. */
export function matching(catalogue: CataloguedObservation[], typed: string): CataloguedObservation[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const found = catalogue.filter((each) => {
    const text = `${each.title} ${each.reason} ${each.clause} ${each.code}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const first = words[0] ?? "";
  const begins = (each: CataloguedObservation) => each.title.toLowerCase().startsWith(first);
  return [...found.filter(begins), ...found.filter((each) => !begins(each))];
}

/** What an observation may be of: the installation, a board, a circuit. */
export function subjectsOf(job: Job, installation: string): { value: string; label: string }[] {
  const parts = [...(job.boards ?? []), ...(job.circuits ?? [])];
  return [{ value: "", label: installation }, ...parts.map(({ id, name }) => ({ value: id, label: name }))];
}
