import type { Job } from "../api/client";

/** The document with another value at a field of an assumption (`supply.ze_ohm`, `circuits.c3.run.0.length_m`); the same document where the path leads nowhere. */
export function withValue(document: Job, field: string, value: number | boolean): Job {
  return set(document, field.split("."), value) as Job;
}

function set(part: unknown, path: string[], value: number | boolean): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return value;
  if (Array.isArray(part)) {
    const at = /^\d+$/.test(key) ? Number(key) : part.findIndex((item) => item.id === key);
    return part[at] === undefined
      ? part
      : part.map((item, number) => (number === at ? set(item, rest, value) : item));
  }
  if (typeof part !== "object" || part === null || (rest.length > 0 && !(key in part))) return part;
  return { ...part, [key]: set((part as Record<string, unknown>)[key], rest, value) };
}
