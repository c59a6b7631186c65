const LOOPBACK = ["localhost", "127.0.0.1", "[::1]"];
/** A file of the program that is not fetched ends the whole of it: so many times it is tried again, after so long [ms]. */
const TRIES = 30;
const PAUSE_MS = 2000;

/**
 * Has this browser keep the program itself, so that the page opens without the network. Not on the machine of the server: there a page
 * without its server is of no use.
 */
export function keepProgram(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD || LOOPBACK.includes(location.hostname))
    return;
  void keep(navigator.serviceWorker);
  void navigator.storage?.persist?.().catch(() => false);
}

/** Registers the worker until it has this page; true where it has. */
export async function keep(workers: ServiceWorkerContainer): Promise<boolean> {
  for (let left = TRIES; left > 0; left -= 1) {
    // Refused where the certificate is not trusted: the page says how to install it where a phone is paired.
    const registration = await workers.register("/service-worker.js").catch(() => null);
    if (workers.controller) return true;
    // A page that was loading while the worker began to work is left out by it: it requests to be taken.
    registration?.active?.postMessage("claim");
    await new Promise((done) => setTimeout(done, PAUSE_MS));
  }
  return workers.controller !== null;
}
