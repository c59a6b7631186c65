const LOOPBACK = ["localhost", "127.0.0.1", "[::1]"];

/**
 * Has this browser keep the program itself, so that the page opens without the network. Not on the machine of the server: there a page
 * without its server is of no use.
 */
export function keepProgram(): void {
  if (!("serviceWorker" in navigator) || !import.meta.env.PROD || LOOPBACK.includes(location.hostname))
    return;
  navigator.serviceWorker.register("/service-worker.js").catch(() => {
    // The certificate is not trusted: the page says how to install it where a phone is paired.
  });
  void navigator.storage?.persist?.().catch(() => false);
}
