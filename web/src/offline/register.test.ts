import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { keep } from "./register";

/** A browser's workers: the worker is there from the given try on, and has the page at once or when it is asked. */
function workers(from: number, atOnce: boolean) {
  const asked: unknown[] = [];
  let tries = 0;
  const container = {
    controller: null as unknown,
    register: () => {
      tries += 1;
      if (tries < from) return Promise.reject(new Error("not fetched"));
      if (atOnce) container.controller = {};
      const active = {
        postMessage: (text: unknown) => {
          asked.push(text);
          container.controller = {};
        },
      };
      return Promise.resolve({ active });
    },
  };
  return { container: container as unknown as ServiceWorkerContainer, asked, tries: () => tries };
}

describe("a browser keeps the program", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  async function ended(container: ServiceWorkerContainer) {
    const done = keep(container);
    await vi.runAllTimersAsync();
    return done;
  }

  it("once, where all goes well", async () => {
    const { container, asked, tries } = workers(1, true);
    expect(await ended(container)).toBe(true);
    expect([tries(), asked]).toEqual([1, []]);
  });

  it("after a file was not fetched", async () => {
    const { container, tries } = workers(4, true);
    expect(await ended(container)).toBe(true);
    expect(tries()).toBe(4);
  });

  it("with a worker that began while the page was loading: the page requests it", async () => {
    const { container, asked } = workers(1, false);
    expect(await ended(container)).toBe(true);
    expect(asked).toEqual(["claim"]);
  });

  it("and ends trying where it is never allowed", async () => {
    const { container } = workers(Number.POSITIVE_INFINITY, true);
    expect(await ended(container)).toBe(false);
  });
});
