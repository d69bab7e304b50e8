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
