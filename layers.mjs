import { fileURLToPath } from "node:url";

const layer = (name) => fileURLToPath(new URL(`./src/${name}`, import.meta.url));

/** One short name per layer, the same as in tsconfig.json: for Vite, its workers and Vitest. */
export const layerAliases = {
  "@core": layer("core"),
  "@worker": layer("worker"),
  "@storage": layer("storage"),
  "@stores": layer("stores"),
  "@views": layer("views"),
};

/** For the site: the layers, and the build of Dexie that is made for browsers of today. */
export const siteAliases = { ...layerAliases, dexie: "dexie/dist/modern/dexie.min.mjs" };

/** Loading a module of core does nothing but define what it gives: so a page gets of a folder only what it uses, and none of the packages behind the rest. */
export const loadsQuietly = (id) => /\/src\/core\//.test(id);
