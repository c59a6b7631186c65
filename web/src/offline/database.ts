import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { NewReading } from "../api/client";

/** A reading that was typed and that the server does not have yet. `test`: the id of the planned test; `why`: what the server refused. */
export type Waiting = {
  id: string;
  job: string;
  test: string;
  reading: Omit<NewReading, "id">;
  at: string;
  by: string;
  instrument: string;
  before: string;
  why: string;
  order: number;
};

interface Schema extends DBSchema {
  /** The last answer of the server to each question, for when it cannot be reached. */
  copies: { key: string; value: unknown };
  waiting: { key: string; value: Waiting };
}

let opened: Promise<IDBPDatabase<Schema> | null> | undefined;

/** This browser's own database; null where it allows none (a private window): all is kept in memory then. */
export function database(): Promise<IDBPDatabase<Schema> | null> {
  opened ??= open().catch(() => null);
  return opened;
}

async function open(): Promise<IDBPDatabase<Schema>> {
  return openDB<Schema>("vivid-lattice", 1, {
    upgrade(db) {
      db.createObjectStore("copies");
      db.createObjectStore("waiting", { keyPath: "id" });
    },
  });
}

/** Closed, so that it is opened again; for tests. */
export async function closeDatabase(): Promise<void> {
  (await opened)?.close();
  opened = undefined;
}
