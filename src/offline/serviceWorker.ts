/// <reference lib="webworker" />
import { clientsClaim } from "workbox-core";
import { cleanupOutdatedCaches, type PrecacheEntry, precacheAndRoute } from "workbox-precaching";

/** Every page and all that they load, put in when the site is built (see `offline.mjs`). */
declare const keptFiles: PrecacheEntry[];

// A new version waits until no page of the old one is open any more: nobody is given half of each.
clientsClaim();
cleanupOutdatedCaches();
precacheAndRoute(keptFiles, { ignoreURLParametersMatching: [/./] });
