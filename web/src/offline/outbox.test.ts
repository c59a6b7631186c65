// @vitest-environment jsdom
import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { revision } from "../testing/fixtures";
import { type Call, problem, server } from "../testing/server";
import { isFromCopy, keepCopy, orCopy } from "./copies";
import { closeDatabase, type Waiting } from "./database";
import { Outbox } from "./outbox";

const POST = "POST /api/jobs/j1/readings";
const entry = (id: string, text: string, more: object = {}) =>
  ({
    id,
    job: "j1",
    test: "zs:circuit:c1",
    reading: { test: "zs", subject: { kind: "circuit", id: "c1" }, text },
    at: "2026-11-30T09:00:00",
    by: "E. Weir",
    instrument: "",
    before: "",
    ...more,
  }) as Omit<Waiting, "order" | "why">;
type Sent = { readings: { id: string; text: string; before: string }[] };
/** What was sent in a call. */
const sentIn = (call: Call | undefined) => (call?.body as Sent | undefined)?.readings ?? [];
const taking = ({ body }: { body: unknown }) => ({
  revision: revision(2),
  taken: (body as Sent).readings.map(({ id }) => id),
  refused: [],
});
/** The same browser after the page was closed. */
const reopened = async () => {
  await closeDatabase();
  const made = new Outbox();
  await made.loaded;
  return made;
};

beforeEach(async () => {
  await closeDatabase();
  globalThis.indexedDB = new IDBFactory();
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe("readings on their way", () => {
  it("are sent, taken, and gone from this browser", async () => {
    const { at } = server({ [POST]: taking });
    const box = new Outbox();
    const merged = vi.fn();
    box.open("j1", { settle: async () => undefined, merged });
    await box.put([entry("a1", "0.5"), entry("a2", ">200")]);
    await box.flush();
    expect(sentIn(at(POST)[0]).map(({ id, text }) => [id, text])).toEqual([
      ["a1", "0.5"],
      ["a2", ">200"],
    ]);
    expect(merged).toHaveBeenCalledWith(revision(2));
    expect(box.all()).toEqual([]);
    expect((await reopened()).all()).toEqual([]);
  });

  it("outlive a closed page while the server does not answer, and keep their order", async () => {
    let silent = true;
    const { at } = server({ [POST]: (call: Call) => (silent ? new Error("off") : taking(call)) });
    const box = new Outbox();
    for (let number = 0; number < 100; number += 1) await box.put([entry(`a${number}`, `0.${number + 1}`)]);
    await box.flush();
    expect(box.problem()).not.toBe("");
    const later = await reopened();
    expect(later.all()).toHaveLength(100);
    silent = false;
    await later.flush();
    expect(later.problem()).toBe("");
    const sent = sentIn(at(POST).at(-1)).map(({ id }) => id);
    expect(sent).toEqual(Array.from({ length: 100 }, (_, number) => `a${number}`));
    expect(later.all()).toEqual([]);
  });

  it("are sent again where the answer got lost, under the same ids", async () => {
    const { at } = server({
      [POST]: (() => {
        let first = true;
        return (call: Parameters<typeof taking>[0]) => {
          if (!first) return taking(call);
          first = false;
          return new Error("cut off after it was taken");
        };
      })(),
    });
    const box = new Outbox();
    await box.put([entry("a1", "0.5")]);
    await box.flush();
    await box.flush();
    expect(at(POST).map((call) => sentIn(call)[0]?.id)).toEqual(["a1", "a1"]);
    expect(box.all()).toEqual([]);
  });

  it("that are refused stay with the reason until the next of the same test, and hold nothing up", async () => {
    server({
      [POST]: ({ body }: Call) => {
        const ids = (body as Sent).readings.map(({ id }) => id);
        const refused = ids.filter((id) => id === "bad").map((id) => ({ id, why: "not a reading" }));
        return { revision: revision(2), taken: ids.filter((id) => id !== "bad"), refused };
      },
    });
    const box = new Outbox();
    await box.put([entry("bad", "lots"), entry("a2", "0.5", { test: "zs:circuit:c2" })]);
    await box.flush();
    const later = await reopened();
    expect(later.all().map(({ id, why }) => [id, why])).toEqual([["bad", "not a reading"]]);
    await later.put([entry("a3", "0.4")]);
    await later.flush();
    expect(later.all()).toEqual([]);
  });

  it("of a job that is gone stay, with the reason, and can be discarded by hand alone", async () => {
    server({ [POST]: problem(404, "no job j1") });
    const box = new Outbox();
    await box.put([entry("a1", "0.5")]);
    await box.flush();
    expect(box.all()[0]?.why).toContain("no job");
    await box.discard("a1");
    expect((await reopened()).all()).toEqual([]);
  });

  it("wait where the phone is no longer paired or the database is busy", async () => {
    for (const status of [401, 503, 507]) {
      server({ [POST]: problem(status, "not now") });
      const box = await reopened();
      await box.put([entry(`a${status}`, "0.5")]);
      await box.flush();
      expect(box.all().every(({ why }) => why === "")).toBe(true);
      expect(box.problem()).toBe("not now");
    }
  });
});

describe("the last answer", () => {
  it("stands in while the server does not answer, and never for a refusal", async () => {
    server({});
    const ask = vi.fn(async () => "fresh");
    expect(await orCopy("k", ask)).toBe("fresh");
    await keepCopy("k", "fresh");
    const { Unreachable, Refused } = await import("../api/errors");
    expect(isFromCopy("k")).toBe(false);
    expect(await orCopy("k", () => Promise.reject(new Unreachable()))).toBe("fresh");
    expect(isFromCopy("k")).toBe(true);
    await expect(orCopy("other", () => Promise.reject(new Unreachable()))).rejects.toThrow();
    const refusal = new Refused(404, { type: "", title: "gone", status: 404, detail: "gone", problems: [] });
    await expect(orCopy("k", () => Promise.reject(refusal))).rejects.toThrow("gone");
    await orCopy("k", ask);
    expect(isFromCopy("k")).toBe(false);
  });
});
