import { Unreachable } from "../api/errors";
import { database } from "./database";

/** Keeps an answer in this browser, for when the server cannot be reached. Where there is no room, nothing is kept. */
export async function keepCopy(key: string, value: unknown): Promise<void> {
  try {
    await (await database())?.put("copies", value, key);
  } catch {
    // The page works without it as long as the server answers.
  }
}

const shownFromCopy = new Set<string>();

/** Whether what was asked last under a key came from this browser, since the server could not be reached. */
export const isFromCopy = (key: string): boolean => shownFromCopy.has(key);

/** The server's answer, or the last one it gave while it cannot be reached. */
export async function orCopy<T>(key: string, ask: () => Promise<T>): Promise<T> {
  try {
    const answer = await ask();
    shownFromCopy.delete(key);
    void keepCopy(key, answer);
    return answer;
  } catch (reason) {
    if (!(reason instanceof Unreachable)) throw reason;
    const copy = await (await database())?.get("copies", key).catch(() => undefined);
    if (copy === undefined) throw reason;
    shownFromCopy.add(key);
    return copy as T;
  }
}
