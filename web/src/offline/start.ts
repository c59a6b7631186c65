import { outbox } from "./outbox";
import { photoQueue } from "./photoQueue";

/** Sends what an earlier visit left, now and whenever the network is back. */
export function startSending(): void {
  for (const queue of [outbox, photoQueue]) {
    void queue.flush();
    window.addEventListener("online", () => void queue.flush());
  }
}
