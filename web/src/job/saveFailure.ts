import type { ConflictProblem } from "../api/client";
import { Refused, Unreachable } from "../api/errors";

/** How the last change of a page stands. */
export type SaveStatus = "saved" | "saving" | "unreachable" | "unavailable" | "refused" | "conflict";
/** Another revision is open by now; `gone`: the job is not in the database any more, since a backup was restored. */
export type Conflict = { head: number; headUid?: string; theirs: string[]; yours: string[]; gone: boolean };

/** The database cannot be used now: locked, read-only, gone, damaged; or the disk is full. Saving goes on when it clears. */
const UNAVAILABLE = [503, 507];

/** What a save that failed means for the page. */
export function failureOf(error: unknown): { state: SaveStatus; why: string; conflict?: Conflict } {
  const why = error instanceof Error ? error.message : String(error);
  if (error instanceof Unreachable) return { state: "unreachable", why };
  if (!(error instanceof Refused)) return { state: "refused", why };
  if (error.status === 404)
    return { state: "conflict", why, conflict: { head: 0, theirs: [], yours: [], gone: true } };
  if (error.status === 409) {
    const { head = 0, head_uid: headUid, theirs = [], yours = [] } = error.problem as ConflictProblem;
    return { state: "conflict", why, conflict: { head, headUid, theirs, yours, gone: false } };
  }
  return { state: UNAVAILABLE.includes(error.status) ? "unavailable" : "refused", why };
}
