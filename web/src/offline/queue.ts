import { Refused, Unreachable } from "../api/errors";
import { t } from "../messages/text";
import { database } from "./database";

const RETRY_MS = 3000;
/** Refusals that pass: the database is busy or full, or this phone is no longer paired. */
const PASSING = [401, 503, 507];

/** What waits in this browser for the server. `why`: what the server refused; `order`: as it was put in. */
export type Kept = { id: string; job: string; why: string; order: number };

/**
 * What is on its way to the server. Each is in this browser's own database before anything else happens to it, and stays there until the
 * server has said that it has it; sent twice it is there once, since its id is chosen here.
 */
export abstract class Queue<T extends Kept> {
  /** In the order they were put in. */
  #kept: readonly T[] = [];
  #listeners = new Set<() => void>();
  #running: Promise<void> | undefined;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #problem = "";
  readonly loaded: Promise<void>;

  constructor(private readonly store: "waiting" | "photos") {
    this.loaded = this.#load();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly all = (): readonly T[] => this.#kept;
  /** Why nothing gets through; '' while it does. */
  readonly problem = (): string => this.#problem;

  /** What is sent together with the first that waits. */
  protected abstract batch(next: T): readonly T[];
  /** Sends some; what is taken is given to `done`, what is refused to `refuse`. Unreachable or Refused where it fails as a whole. */
  protected abstract sendBatch(job: string, batch: readonly T[]): Promise<void>;

  /** Keeps what is new in place of what it replaces, then sends. */
  protected async keep(added: Omit<T, "order" | "why">[], gone: readonly T[] = []): Promise<void> {
    await this.loaded;
    const last = this.#kept.at(-1)?.order ?? 0;
    const made = added.map((entry, index) => ({ ...entry, why: "", order: last + index + 1 }) as T);
    await this.#write(made, gone);
    this.#set([...this.#kept.filter((old) => !gone.includes(old)), ...made]);
    void this.flush();
  }

  /** Gives up what was refused. */
  async discard(id: string): Promise<void> {
    await this.done(new Set([id]));
  }

  /** Sends what waits; once at a time. Resolves when all is sent, or the server cannot be reached. */
  flush(): Promise<void> {
    this.#running ??= this.#send().finally(() => {
      this.#running = undefined;
      clearTimeout(this.#timer);
      if (this.#kept.some(({ why }) => !why)) this.#timer = setTimeout(() => void this.flush(), RETRY_MS);
    });
    return this.#running;
  }

  /** What the server has is kept here no longer. */
  protected async done(ids: ReadonlySet<string>): Promise<void> {
    await this.#write(
      [],
      this.#kept.filter(({ id }) => ids.has(id)),
    );
    this.#set(this.#kept.filter(({ id }) => !ids.has(id)));
  }

  /** What the server refuses stays, with why. */
  protected async refuse(why: ReadonlyMap<string, string>): Promise<void> {
    const refused = this.#kept
      .filter(({ id }) => why.has(id))
      .map((entry) => ({ ...entry, why: why.get(entry.id) ?? "" }));
    await this.#write(refused, []);
    this.#set(this.#kept.map((entry) => refused.find(({ id }) => id === entry.id) ?? entry));
  }

  async #load() {
    const kept = (await (await database())?.getAll(this.store).catch(() => [])) ?? [];
    this.#set((kept as unknown as T[]).sort((one, other) => one.order - other.order));
  }

  async #send() {
    await this.loaded;
    for (;;) {
      const next = this.#kept.find(({ why }) => !why);
      if (!next) return this.#tell("");
      const batch = this.batch(next);
      try {
        await this.sendBatch(next.job, batch);
      } catch (reason) {
        if (!(reason instanceof Unreachable) && !(reason instanceof Refused)) throw reason;
        if (reason instanceof Unreachable || PASSING.includes(reason.status))
          return this.#tell(reason instanceof Unreachable ? t("web.testing.no_server") : reason.message);
        await this.refuse(new Map(batch.map(({ id }) => [id, reason.message])));
      }
    }
  }

  async #write(put: readonly T[], gone: readonly T[]) {
    const db = await database();
    if (!db) return;
    const writing = db.transaction(this.store, "readwrite", { durability: "strict" });
    await Promise.all([
      ...put.map((entry) => writing.store.put(entry as never)),
      ...gone.map(({ id }) => writing.store.delete(id)),
      writing.done,
    ]);
  }

  #set(kept: readonly T[]) {
    this.#kept = kept;
    for (const listener of this.#listeners) listener();
  }

  #tell(problem: string) {
    if (problem === this.#problem) return;
    this.#problem = problem;
    for (const listener of this.#listeners) listener();
  }
}
