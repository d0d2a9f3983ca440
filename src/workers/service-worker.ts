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

serwist.addEventListeners();
