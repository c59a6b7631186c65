import { answered, client, type Revision } from "../api/client";
import type { Waiting } from "./database";
import { Queue } from "./queue";

const AT_ONCE = 200;

/** What the page that has a job open does: waits until its own edits are saved, and goes on from a revision that readings were merged into. */
type Page = { settle: () => Promise<void> | undefined; merged: (revision: Revision) => void };

/** Readings on their way to the server. */
export class Outbox extends Queue<Waiting> {
  #pages = new Map<string, Page>();
  #sending = new Map<string, Promise<unknown>>();

  constructor() {
    super("waiting");
  }

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
    const gone = this.all().filter(
      (old) => old.why && entries.some(({ job, test }) => job === old.job && test === old.test),
    );
    await this.keep(entries, gone);
  }

  protected override batch(next: Waiting) {
    return this.all()
      .filter(({ why, job }) => !why && job === next.job)
      .slice(0, AT_ONCE);
  }

  protected override async sendBatch(job: string, batch: readonly Waiting[]) {
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
    await this.done(new Set<string>(answer.taken));
    await this.refuse(new Map(answer.refused.map(({ id, why }) => [id, why])));
  }
}

export const outbox = new Outbox();
