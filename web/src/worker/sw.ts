/**
 * Oxlen without the network: the pages and what was opened last, kept on the phone. Only what is
 * read is kept here; changes wait in the page that made them.
 */

import { CacheableResponsePlugin } from "workbox-cacheable-response";
import { clientsClaim } from "workbox-core";
import { ExpirationPlugin } from "workbox-expiration";
import { registerRoute } from "workbox-routing";
import { CacheFirst, NetworkFirst } from "workbox-strategies";

const MOST_ANSWERS = 400;
const MOST_PICTURES = 200;
const MOST_PARTS = 160;
const PATIENCE_S = 6;
const NEVER = /^\/api\/(news|network|pair|sheets\/\d+\/(dry-run|files-compared|sharpness|white))/;
const PREVIEW = /^\/api\/pictures\/[0-9a-f]{64}\/preview$/;

const good = new CacheableResponsePlugin({ statuses: [200] });
const atMost = (maxEntries: number) =>
  new ExpirationPlugin({ maxEntries, purgeOnQuotaError: true });

/** Marks what comes from the phone's own store, so that the page can say how old it is. */
const marked = {
  cachedResponseWillBeUsed: ({ cachedResponse }: { cachedResponse?: Response | undefined }) => {
    if (!cachedResponse) return Promise.resolve(null);
    const headers = new Headers(cachedResponse.headers);
    headers.set("x-oxlen-kept", headers.get("date") ?? "earlier");
    const { status, statusText } = cachedResponse;
    return Promise.resolve(new Response(cachedResponse.body, { status, statusText, headers }));
  },
};

addEventListener("install", () => {
  // A new version takes over at once: pages and answers of two versions do not mix.
  void (globalThis as unknown as { skipWaiting: () => Promise<void> }).skipWaiting();
});
clientsClaim();

registerRoute(
  ({ request }) => request.mode === "navigate",
  new NetworkFirst({
    cacheName: "oxlen-page",
    networkTimeoutSeconds: PATIENCE_S,
    // One page serves every address.
    plugins: [good, { cacheKeyWillBeUsed: () => Promise.resolve("/") }],
  }),
);

registerRoute(
  ({ url }) => url.pathname.startsWith("/assets/"),
  new CacheFirst({ cacheName: "oxlen-parts", plugins: [good, atMost(MOST_PARTS)] }),
);

registerRoute(
  ({ url }) => PREVIEW.test(url.pathname),
  new CacheFirst({ cacheName: "oxlen-pictures", plugins: [good, atMost(MOST_PICTURES)] }),
);

registerRoute(
  ({ url }) => url.pathname.startsWith("/api/") && !NEVER.test(url.pathname),
  new NetworkFirst({
    cacheName: "oxlen-answers",
    networkTimeoutSeconds: PATIENCE_S,
    plugins: [good, atMost(MOST_ANSWERS), marked],
  }),
);
