import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { NewReading } from "../api/client";
import type { Kept } from "./queue";

/** A reading that was typed and that the server does not have yet. `test`: the id of the planned test. */
export type Waiting = Kept & {
  test: string;
  reading: Omit<NewReading, "id">;
  at: string;
  by: string;
  instrument: string;
  before: string;
};

/** A photo that was taken and that the server does not have yet: of a board, of one of its ways, or of what `board` names. */
export type KeptPhoto = Kept & { board: string; way: number | null; caption: string; picture: ArrayBuffer };

interface Schema extends DBSchema {
  /** The last answer of the server to each question, for when it cannot be reached. */
  copies: { key: string; value: unknown };
  waiting: { key: string; value: Waiting };
  photos: { key: string; value: KeptPhoto };
}

let opened: Promise<IDBPDatabase<Schema> | null> | undefined;

/** This browser's own database; null where it allows none (a private window): all is kept in memory then. */
export function database(): Promise<IDBPDatabase<Schema> | null> {
  opened ??= open().catch(() => null);
  return opened;
}

async function open(): Promise<IDBPDatabase<Schema>> {
  return openDB<Schema>("vivid-lattice", 2, {
    upgrade(db, before) {
      if (before < 1) {
        db.createObjectStore("copies");
        db.createObjectStore("waiting", { keyPath: "id" });
      }
      if (before < 2) db.createObjectStore("photos", { keyPath: "id" });
    },
    // A page of an earlier version in another tab must not keep this one waiting.
    blocking(_now, _next, event) {
      (event.target as IDBDatabase).close();
      opened = undefined;
    },
  });
}

/** Closed, so that it is opened again; for tests. */
export async function closeDatabase(): Promise<void> {
  (await opened)?.close();
  opened = undefined;
}
