import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Job } from "../api/client";
import { deleteDraft, saveDraft, takeDraft } from "./draft";

/** As much of the browser's storage as a draft asks for. */
class Shelf {
  [key: string]: unknown;
  getItem(key: string) {
    return (this[key] as string | undefined) ?? null;
  }
  setItem(key: string, value: string) {
    this[key] = value;
  }
  removeItem(key: string) {
    delete this[key];
  }
}

const job = (title: string) => ({ job: { title } }) as unknown as Job;

function openTab() {
  vi.stubGlobal("sessionStorage", new Shelf());
}

describe("an edit that the server has not acknowledged", () => {
  beforeEach(() => {
    vi.useFakeTimers({ now: 1_000_000 });
    vi.stubGlobal("localStorage", new Shelf());
    openTab();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it("is there again after a reload of the same tab, until it is kept", () => {
    saveDraft("j1", { number: 3, uid: "a1" }, job("mine"));
    expect(takeDraft("j1")).toMatchObject({ base: 3, uid: "a1", document: { job: { title: "mine" } } });
    deleteDraft("j1");
    expect(takeDraft("j1")).toBeUndefined();
  });

  it("belongs to its job alone", () => {
    saveDraft("j1", { number: 3 }, job("mine"));
    expect(takeDraft("j2")).toBeUndefined();
  });

  it("is not taken from a tab that may still be keeping it, but from one that is gone", () => {
    saveDraft("j1", { number: 3 }, job("theirs"));
    openTab();
    expect(takeDraft("j1")).toBeUndefined();
    vi.advanceTimersByTime(11_000);
    expect(takeDraft("j1")?.document.job.title).toBe("theirs");
    // Taken over, it is this tab's own, and outlives a crash of this one too.
    expect(takeDraft("j1")?.document.job.title).toBe("theirs");
    deleteDraft("j1");
    openTab();
    vi.advanceTimersByTime(60_000);
    expect(takeDraft("j1")).toBeUndefined();
  });

  it("survives rubbish beside it, and says when there is no room for it", () => {
    localStorage.setItem("vivid-lattice/draft/j1/other", "{not json");
    vi.advanceTimersByTime(11_000);
    expect(takeDraft("j1")).toBeUndefined();
    vi.spyOn(localStorage, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    expect(saveDraft("j1", { number: 1 }, job("mine"))).toBe(false);
  });
});
