/**
 * Oxlen without the network: the pages and what was opened last, kept on the phone. Only what is
 * read is kept here; changes wait in the page that made them.
 */

import { CacheableResponsePlugin } from "workbox-cacheable-response";
import { clientsClaim } from "workbox-core";
import { ExpirationPlugin } from "workbox-expiration";
import { registerRoute } from "workbox-routing";
import { CacheFirst, NetworkFirst, StaleWhileRevalidate } from "workbox-strategies";

import { MOST_ANSWERS, MOST_PICTURES } from "../offline/keptHere";
import { NEWER } from "../offline/newer";

interface Clients {
  matchAll: () => Promise<
    { postMessage: (words: string) => void; focus: () => Promise<unknown> }[]
  >;
}

const ANSWERS = "oxlen-answers";
const PICTURES = "oxlen-pictures";
const MOST_PARTS = 400;
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

let timesPutOut = 0;
const forget = () => Promise.all([caches.delete(ANSWERS), caches.delete(PICTURES)]);

/**
 * A phone that is no longer paired keeps nothing, nor does what was still on its way when it was put
 * out: an answer is kept only if nothing of the kind happened since it was asked for.
 */
const whileLetIn = {
  handlerWillStart: ({ state }: { state?: Record<string, unknown> | undefined }) => {
    if (state) state.timesPutOut = timesPutOut;
    return Promise.resolve();
  },
  fetchDidSucceed: async ({ response }: { response: Response }) => {
    if (response.status === 401) {
      timesPutOut += 1;
      await forget();
    }
    return response;
  },
  cacheDidUpdate: async ({ state }: { state?: Record<string, unknown> | undefined }) => {
    if (state?.timesPutOut !== timesPutOut) await forget();
  },
};

addEventListener("install", () => {
  // A new version takes over at once: pages and answers of two versions do not mix.
  void (globalThis as unknown as { skipWaiting: () => Promise<void> }).skipWaiting();
});
clientsClaim();
// The slip on the lock screen leads back to the page it came from.
addEventListener("notificationclick", (event) => {
  (event as Event & { notification: Notification }).notification.close();
  const pages = (globalThis as unknown as { clients: Clients }).clients;
  void pages.matchAll().then(([first]) => first?.focus());
});

const partsOf = async (page: Response) =>
  [...(await page.clone().text()).matchAll(/\/assets\/[^"]+/g)].join();

/** Tells the pages that are open when the computer has newer ones. */
const tellOfNewer = {
  cacheDidUpdate: async (kept: {
    oldResponse?: Response | null | undefined;
    newResponse: Response;
  }) => {
    const { oldResponse, newResponse } = kept;
    if (!oldResponse || (await partsOf(oldResponse)) === (await partsOf(newResponse))) return;
    const pages = (globalThis as unknown as { clients: Clients }).clients;
    for (const answer of await pages.matchAll()) answer.postMessage(NEWER);
  },
};

registerRoute(
  ({ request }) => request.mode === "navigate",
  // At once from the phone, since only its parts are named in it; the newer one is there next time.
  new StaleWhileRevalidate({
    cacheName: "oxlen-page",
    // One page serves every address.
    plugins: [good, { cacheKeyWillBeUsed: () => Promise.resolve("/") }, tellOfNewer],
  }),
);

registerRoute(
  ({ url }) => url.pathname === "/theme.js",
  new StaleWhileRevalidate({ cacheName: "oxlen-parts", plugins: [good] }),
);

registerRoute(
  ({ url }) => url.pathname.startsWith("/assets/"),
  new CacheFirst({ cacheName: "oxlen-parts", plugins: [good, atMost(MOST_PARTS)] }),
);

registerRoute(
  ({ url }) => PREVIEW.test(url.pathname),
  new CacheFirst({ cacheName: PICTURES, plugins: [good, atMost(MOST_PICTURES), whileLetIn] }),
);

registerRoute(
  // A page that asks past every store asks whether the computer answers: it alone may say so.
  ({ url, request }) =>
    url.pathname.startsWith("/api/") && !NEVER.test(url.pathname) && request.cache !== "no-store",
  new NetworkFirst({
    cacheName: ANSWERS,
    networkTimeoutSeconds: PATIENCE_S,
    plugins: [good, atMost(MOST_ANSWERS), marked, whileLetIn],
  }),
);
