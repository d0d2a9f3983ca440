/// <reference lib="webworker" />
import { type PrecacheEntry, Serwist } from 'serwist';

declare const self: ServiceWorkerGlobalScope & { __SW_MANIFEST: (PrecacheEntry | string)[] };

/**
 * Keeps the field shell and the static files; everything else is network only, because a stored server page could be
 * another person's on a shared tablet. A new version waits until no page of the old one is open: never during a run.
 */
const serwist = new Serwist({
  precacheEntries: self.__SW_MANIFEST,
  precacheOptions: { cleanupOutdatedCaches: true, ignoreURLParametersMatching: [/.*/] },
  skipWaiting: false,
  clientsClaim: true,
  navigationPreload: false,
});

// A page's worker reads what it is to load from its own address, which a stored answer replaces by the one it was stored
// under. An answer made anew has no address, so the worker keeps the one that it was asked for by.
self.addEventListener('fetch', (event) => {
  if (event.request.destination !== 'worker') return;
  event.stopImmediatePropagation();
  const { origin, pathname } = new URL(event.request.url);
  event.respondWith(
    serwist
      .matchPrecache(origin + pathname)
      .then((kept) => (kept === undefined ? fetch(event.request) : new Response(kept.body, { headers: kept.headers }))),
  );
});

serwist.addEventListeners();
