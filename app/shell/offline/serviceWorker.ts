/**
 * Keeps the whole app in the browser, so that every later visit needs no server. What was there before stays for as
 * long as a page of the former version may still ask for a part of itself.
 */
import {
  createHandlerBoundToURL,
  getCacheKeyForURL,
  precacheAndRoute,
  type PrecacheEntry,
} from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { TAKE_OVER } from './messages';

/** What of a service worker's surroundings is used here; the library of page types does not have it. */
interface ServiceWorkerScope {
  __WB_MANIFEST: (string | PrecacheEntry)[];
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void> };
  addEventListener(type: 'message', listener: (event: MessageEvent & Waiting) => void): void;
  addEventListener(type: 'activate', listener: (event: Waiting) => void): void;
}
interface Waiting {
  waitUntil(work: Promise<unknown>): void;
}
declare const self: ServiceWorkerScope;

const FORMER = 'ordle-former';

const manifest = self.__WB_MANIFEST;
precacheAndRoute(manifest);
registerRoute(
  new NavigationRoute(createHandlerBoundToURL('/index.html'), {
    // Addresses of files and of the server itself are not places of the app.
    denylist: [/\/[^/?]+\.[a-z0-9-]+$/i, /^\/health/],
  }),
);
// Parts of the former version, for pages that still run it: the server may not have them any more.
registerRoute(
  ({ url }) => url.pathname.startsWith('/assets/'),
  async ({ request }) =>
    (await caches.match(request, { cacheName: FORMER, ignoreVary: true })) ?? fetch(request),
);

/** Puts aside what the version in force has and this one has not, before it goes. */
async function keepFormer() {
  await caches.delete(FORMER);
  const former = await caches.open(FORMER);
  const kept = new Set(
    manifest.map((entry) => getCacheKeyForURL(typeof entry === 'string' ? entry : entry.url)),
  );
  for (const name of await caches.keys()) {
    if (!name.includes('precache')) continue;
    const cache = await caches.open(name);
    for (const request of await cache.keys()) {
      const { pathname } = new URL(request.url);
      if (!pathname.startsWith('/assets/') || kept.has(request.url)) continue;
      const response = await cache.match(request);
      if (response) await former.put(request, response);
    }
  }
}

self.addEventListener('message', (event) => {
  if ((event.data as { type?: unknown } | null)?.type !== TAKE_OVER) return;
  event.waitUntil(keepFormer().then(() => self.skipWaiting()));
});
// A page of the first visit is kept too, without being loaded anew.
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));
