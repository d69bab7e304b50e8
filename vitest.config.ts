import { defineConfig } from "vitest/config";
import { layerAliases } from "./layers.mjs";

export default defineConfig({
  resolve: { alias: layerAliases },
  test: { include: ["src/**/*.test.ts", "tests/*.test.ts"], environment: "node" },
});
