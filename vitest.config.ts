import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const layer = (name: string) => fileURLToPath(new URL(`./src/${name}`, import.meta.url));

/** The same short names as in tsconfig.json: one per layer. */
export const layerAliases = {
  "@core": layer("core"),
  "@worker": layer("worker"),
  "@storage": layer("storage"),
  "@stores": layer("stores"),
  "@views": layer("views"),
};

export default defineConfig({
  resolve: { alias: layerAliases },
  test: { include: ["src/**/*.test.ts", "tests/*.test.ts"], environment: "node" },
});
