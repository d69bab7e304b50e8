import { defineConfig } from "vitest/config";
import { layerAliases } from "./layers.mjs";

export default defineConfig({
  resolve: { alias: layerAliases },
  test: {
    include: ["src/**/*.test.ts", "tests/*.test.ts"],
    // Machines that are shared stand still for seconds.
    testTimeout: 60_000,
    environment: "node",
  },
});
