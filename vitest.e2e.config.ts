import { defineConfig } from "vitest/config";
import { layerAliases } from "./layers.mjs";

export default defineConfig({
  resolve: { alias: layerAliases },
  test: {
    include: ["tests/e2e/**/*.e2e.ts"],
    environment: "node",
    // Two sittings at a time: most of their time is that of servos on their way.
    maxWorkers: 2,
    testTimeout: 300_000,
    hookTimeout: 120_000,
    setupFiles: ["tests/e2e/sitting.ts"],
    globalSetup: ["tests/e2e/served.ts"],
  },
});
