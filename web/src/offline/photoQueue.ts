import { answered, client } from "../api/client";
import type { KeptPhoto } from "./database";
import { Queue } from "./queue";

/** Photos on their way to the server, one at a time. */
export class PhotoQueue extends Queue<KeptPhoto> {
  constructor() {
    super("photos");
  }

  /** Keeps photos, then sends them. */
  put(photos: Omit<KeptPhoto, "order" | "why">[]): Promise<void> {
    return this.keep(photos);
  }

  protected override batch(next: KeptPhoto) {
    return [next];
  }

  protected override async sendBatch(job: string, [photo]: readonly KeptPhoto[]) {
    if (!photo) return;
    const { id, board, way, caption, picture } = photo;
    await answered(
      client.POST("/api/jobs/{job_id}/photos", {
        params: { path: { job_id: job }, query: { id, board, way, caption } },
        headers: { "content-type": "application/octet-stream" },
        body: picture as never,
        bodySerializer: (body) => body as never,
      }),
    );
    await this.done(new Set([id]));
  }
}

export const photoQueue = new PhotoQueue();
