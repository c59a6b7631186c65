import type { Job } from "../api/client";

/** The revision that a change is made from: its number, and its own id where the server told one. */
export type Base = { number: number; uid?: string };

/** An edit that the server has not acknowledged yet, kept in this browser so that no crash loses it. */
export type Draft = { base: number; uid?: string; document: Job; at: number };

/** A draft of another tab is taken over only when that tab has had ample time to keep it itself. */
const ORPHAN_AFTER_MS = 10_000;

function tabId(): string {
  const kept = sessionStorage.getItem("vivid-lattice/tab");
  if (kept) return kept;
  const made = crypto.randomUUID();
  sessionStorage.setItem("vivid-lattice/tab", made);
  return made;
}

const prefix = (jobId: string) => `vivid-lattice/draft/${jobId}/`;

/** Keep an edit; false where the browser's storage is full or closed. */
export function saveDraft(jobId: string, base: Base, document: Job): boolean {
  try {
    const draft: Draft = { base: base.number, uid: base.uid, document, at: Date.now() };
    localStorage.setItem(prefix(jobId) + tabId(), JSON.stringify(draft));
    return true;
  } catch {
    return false;
  }
}

/** Forget this tab's edit: the server has it. */
export function deleteDraft(jobId: string): void {
  localStorage.removeItem(prefix(jobId) + tabId());
}

/** Put this tab's edit where no later one replaces it: it cannot be read now. Tells where it is. */
export function setDraftAside(jobId: string): string {
  const mine = prefix(jobId) + tabId();
  const aside = `vivid-lattice/unread/${jobId}/${Date.now()}`;
  localStorage.setItem(aside, localStorage.getItem(mine) ?? "");
  localStorage.removeItem(mine);
  return aside;
}

/** An edit of a job that was never kept: this tab's own, or one that another tab left behind. Taken over by this tab. */
export function takeDraft(jobId: string): Draft | undefined {
  const mine = prefix(jobId) + tabId();
  const keys = Object.keys(localStorage).filter((key) => key.startsWith(prefix(jobId)));
  for (const key of [mine, ...keys.filter((other) => other !== mine)]) {
    const draft = readDraft(key);
    if (!draft || (key !== mine && Date.now() - draft.at < ORPHAN_AFTER_MS)) continue;
    if (key !== mine) {
      localStorage.setItem(mine, JSON.stringify(draft));
      localStorage.removeItem(key);
    }
    return draft;
  }
  return undefined;
}

function readDraft(key: string): Draft | undefined {
  try {
    const draft = JSON.parse(localStorage.getItem(key) ?? "null");
    return draft && typeof draft.base === "number" && draft.document ? draft : undefined;
  } catch {
    return undefined;
  }
}
