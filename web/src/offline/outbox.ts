import { answered, client, type Revision } from "../api/client";
import { Refused, Unreachable } from "../api/errors";
import { t } from "../messages/text";
import { database, type Waiting } from "./database";

const RETRY_MS = 3000;
const AT_ONCE = 200;
/** Refusals that pass: the database is busy or full, or this phone is no longer paired. */
const PASSING = [401, 503, 507];

/** What the page that has a job open does: waits until its own edits are saved, and goes on from a revision that readings were merged into. */
type Page = { settle: () => Promise<void> | undefined; merged: (revision: Revision) => void };

/**
 * Readings on their way to the server. Each is in this browser's own database before anything else happens to it, and stays there until the
 * server has said that it has it; sent twice it is there once, since its id is chosen here.
 */
export class Outbox {
  /** In the order they were typed. */
  #waiting: readonly Waiting[] = [];
  #listeners = new Set<() => void>();
  #pages = new Map<string, Page>();
  #sending = new Map<string, Promise<unknown>>();
  #running: Promise<void> | undefined;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #problem = "";
  readonly loaded: Promise<void>;

  constructor() {
    this.loaded = this.#load();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly all = (): readonly Waiting[] => this.#waiting;
  /** Why nothing gets through; '' while it does. */
  readonly problem = (): string => this.#problem;

  /** The page that has a job open, until it is left. */
  open(job: string, page: Page): () => void {
    this.#pages.set(job, page);
    return () => {
      if (this.#pages.get(job) === page) this.#pages.delete(job);
    };
  }

  /** Resolves when no readings of a job are on the line: a save that began during that would be made from a revision that is no longer the head. */
  async sent(job: string): Promise<void> {
    await this.#sending.get(job)?.catch(() => undefined);
  }

  /** Keeps readings, then sends them. One that was refused before is replaced by the next of the same test. */
  async put(entries: Omit<Waiting, "order" | "why">[]): Promise<void> {
    await this.loaded;
    const last = this.#waiting.at(-1)?.order ?? 0;
    const added = entries.map((entry, index) => ({ ...entry, why: "", order: last + index + 1 }));
    const gone = this.#waiting.filter(
      (old) => old.why && added.some(({ job, test }) => job === old.job && test === old.test),
    );
    await this.#store(added, gone);
    this.#set([...this.#waiting.filter((old) => !gone.includes(old)), ...added]);
    void this.flush();
  }

  /** Gives a refused reading up. */
  async discard(id: string): Promise<void> {
    const gone = this.#waiting.filter((entry) => entry.id === id);
    await this.#store([], gone);
    this.#set(this.#waiting.filter((entry) => entry.id !== id));
  }

  /** Sends what waits; once at a time. Resolves when all is sent, or the server cannot be reached. */
  flush(): Promise<void> {
    this.#running ??= this.#send().finally(() => {
      this.#running = undefined;
      clearTimeout(this.#timer);
      if (this.#waiting.some(({ why }) => !why)) this.#timer = setTimeout(() => void this.flush(), RETRY_MS);
    });
    return this.#running;
  }

  async #load() {
    const kept = (await (await database())?.getAll("waiting").catch(() => [])) ?? [];
    this.#set(kept.sort((one, other) => one.order - other.order));
  }

  async #send() {
    await this.loaded;
    for (;;) {
      const next = this.#waiting.find(({ why }) => !why);
      if (!next) return this.#tell("");
      const batch = this.#waiting.filter(({ why, job }) => !why && job === next.job).slice(0, AT_ONCE);
      try {
        await this.#sendBatch(next.job, batch);
      } catch (reason) {
        if (!(reason instanceof Unreachable) && !(reason instanceof Refused)) throw reason;
        if (reason instanceof Unreachable || PASSING.includes(reason.status))
          return this.#tell(reason instanceof Unreachable ? t("web.testing.no_server") : reason.message);
        await this.#refuse(new Map(batch.map(({ id }) => [id, reason.message])));
      }
    }
  }

  async #sendBatch(job: string, batch: readonly Waiting[]) {
    const readings = batch.map(({ id, reading, at, by, instrument, before }) => ({
      ...reading,
      ...{ id, at, by, instrument, before },
    }));
    await this.#pages.get(job)?.settle();
    const path = { job_id: job };
    const sending = answered(
      client.POST("/api/jobs/{job_id}/readings", { params: { path }, body: { readings } as never }),
    ).then((answer) => {
      // Before any save goes on, and before the boxes are drawn again: the reading is in the document when it no longer waits.
      this.#pages.get(job)?.merged(answer.revision);
      return answer;
    });
    this.#sending.set(job, sending);
    const answer = await sending.finally(() => this.#sending.delete(job));
    const taken = new Set<string>(answer.taken);
    await this.#store(
      [],
      batch.filter(({ id }) => taken.has(id)),
    );
    this.#set(this.#waiting.filter(({ id }) => !taken.has(id)));
    await this.#refuse(new Map(answer.refused.map(({ id, why }) => [id, why])));
  }

  async #refuse(why: Map<string, string>) {
    const refused = this.#waiting
      .filter(({ id }) => why.has(id))
      .map((entry) => ({ ...entry, why: why.get(entry.id) ?? "" }));
    await this.#store(refused, []);
    this.#set(this.#waiting.map((entry) => refused.find(({ id }) => id === entry.id) ?? entry));
  }

  async #store(put: Waiting[], gone: readonly Waiting[]) {
    const db = await database();
    if (!db) return;
    const writing = db.transaction("waiting", "readwrite", { durability: "strict" });
    await Promise.all([
      ...put.map((entry) => writing.store.put(entry)),
      ...gone.map(({ id }) => writing.store.delete(id)),
      writing.done,
    ]);
  }

  #set(waiting: readonly Waiting[]) {
    this.#waiting = waiting;
    for (const listener of this.#listeners) listener();
  }

  #tell(problem: string) {
    if (problem === this.#problem) return;
    this.#problem = problem;
    for (const listener of this.#listeners) listener();
  }
}

export const outbox = new Outbox();

/** Sends what an earlier visit left, now and whenever the network is back. */
export function startOutbox(): void {
  void outbox.flush();
  window.addEventListener("online", () => void outbox.flush());
}
