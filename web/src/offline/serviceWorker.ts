import { matchPrecache, precacheAndRoute } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

/** The built files, put in by the build. */
declare const __BUILT_FILES__: { url: string; revision: string | null }[];
declare const self: Window &
  typeof globalThis & { skipWaiting: () => Promise<void>; clients: { claim: () => Promise<void> } };

/** What a page waits for the server before the kept one is shown [ms]. */
const WAIT_MS = 4000;

async function fromServerOrKept({ request }: { request: Request }): Promise<Response> {
  try {
    return await fetch(request, { signal: AbortSignal.timeout(WAIT_MS) });
  } catch {
    return (await matchPrecache("/index.html")) ?? Response.error();
  }
}

// The page itself always comes from the server while it answers, so that an update is there at once.
registerRoute(new NavigationRoute(fromServerOrKept, { denylist: [/^\/api\//, /^\/authority\.crt$/] }));
precacheAndRoute(__BUILT_FILES__);
self.addEventListener("install", () => void self.skipWaiting());
self.addEventListener("activate", claim);
// The only thing a page tells: that it is to be taken.
self.addEventListener("message", claim);

function claim(event: Event): void {
  (event as unknown as { waitUntil: (done: Promise<void>) => void }).waitUntil(self.clients.claim());
}
