// @vitest-environment jsdom
import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { problem, server } from "../testing/server";
import { closeDatabase } from "./database";
import { PhotoQueue } from "./photoQueue";

const POST = "POST /api/jobs/j1/photos";
const photo = (id: string, way: number | null = null) => ({
  ...{ id, job: "j1", board: "main", way, caption: `${id}.jpg` },
  picture: new TextEncoder().encode(`picture of ${id}`).buffer as ArrayBuffer,
});
const reopened = async () => {
  await closeDatabase();
  const made = new PhotoQueue();
  await made.loaded;
  return made;
};

beforeEach(async () => {
  await closeDatabase();
  globalThis.indexedDB = new IDBFactory();
});
afterEach(() => vi.unstubAllGlobals());

describe("photos on their way", () => {
  it("outlive a closed page without a server, and go one by one with their id, board and way", async () => {
    let silent = true;
    const { at } = server({ [POST]: () => (silent ? new Error("off") : {}) });
    const queue = new PhotoQueue();
    await queue.put([photo("photo-one", 3), photo("photo-two")]);
    await queue.flush();
    expect(queue.problem()).not.toBe("");
    const later = await reopened();
    expect(later.all().map(({ id }) => id)).toEqual(["photo-one", "photo-two"]);
    silent = false;
    await later.flush();
    expect(later.all()).toEqual([]);
    const [one, two] = at(POST).slice(-2);
    expect(one?.search).toBe("?id=photo-one&board=main&way=3&caption=photo-one.jpg");
    expect(two?.search).not.toContain("way=");
    expect(one?.body).toBe("picture of photo-one");
    expect((await reopened()).all()).toEqual([]);
  });

  it("stay with why where the server refuses them, until they are given up; the others go on", async () => {
    server({
      [POST]: ({ search }: { search: string }) => (search.includes("bad") ? problem(422, "no picture") : {}),
    });
    const queue = new PhotoQueue();
    await queue.put([photo("bad-photo"), photo("good-photo")]);
    await queue.flush();
    expect(queue.all().map(({ id, why }) => [id, why])).toEqual([["bad-photo", "no picture"]]);
    expect((await reopened()).all()).toHaveLength(1);
    await queue.discard("bad-photo");
    expect((await reopened()).all()).toEqual([]);
  });
});
