const LOOPBACK = ["localhost", "127.0.0.1", "[::1]"];
/** A file of the program that is not fetched ends the whole of it: so many times it is tried again, after so long [ms]. */
const TRIES = 5;
const PAUSE_MS = 2000;

/**
 * Has this browser keep the program itself, so that the page opens without the network. Not on the machine of the server: there a page
 * without its server is of no use.
 */
export function keepProgram(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD || LOOPBACK.includes(location.hostname))
    return;
  void keep(TRIES);
  void navigator.storage?.persist?.().catch(() => false);
}

async function keep(left: number): Promise<void> {
  try {
    const registration = await navigator.serviceWorker.register("/service-worker.js");
    const worker = registration.installing;
    worker?.addEventListener("statechange", () => {
      if (worker.state === "redundant" && !registration.active && left > 0)
        setTimeout(() => void keep(left - 1), PAUSE_MS);
    });
  } catch {
    // The certificate is not trusted: the page says how to install it where a phone is paired.
  }
}
