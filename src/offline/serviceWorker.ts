/// <reference lib="webworker" />
import { clientsClaim } from "workbox-core";
import { cleanupOutdatedCaches, type PrecacheEntry, precacheAndRoute } from "workbox-precaching";

/** Every page and all that they load, put in when the site is built (see `offline.mjs`). */
declare const keptFiles: PrecacheEntry[];
declare const self: ServiceWorkerGlobalScope;

// A new version waits until no page of the old one is open any more, or a person has it come, and all pages load anew: nobody is given half of each.
self.addEventListener("message", ({ data }) => {
  if (data === "come") void self.skipWaiting();
});
clientsClaim();
cleanupOutdatedCaches();
precacheAndRoute(keptFiles, { ignoreURLParametersMatching: [/./] });
