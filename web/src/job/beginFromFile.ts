import { answered, client, type Revision } from "../api/client";

/** Begins a job from a document or from a ZIP with its photos; the server reads both, and says what is wrong with either. */
export function beginFromFile(file: Blob | string): Promise<Revision> {
  return answered(
    client.POST("/api/jobs/import", {
      body: file as string,
      bodySerializer: (body: string) => body,
      headers: { "content-type": "application/octet-stream" },
    }),
  );
}
