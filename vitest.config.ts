import { defineConfig } from "vitest/config";
import { layerAliases } from "./layers.mjs";

const common = {
  // Machines that are shared stand still for seconds.
  testTimeout: 60_000,
  environment: "node" as const,
};

export default defineConfig({
  resolve: { alias: layerAliases },
  test: {
    // The runner's own choice would leave one of two processors idle.
    maxWorkers: 2,
    globalSetup: ["tests/tempFolder.ts"],
    projects: [
      {
        extends: true,
        // Core keeps nothing between two calls, so that its tests share their modules: loading those took longer than testing them.
        test: { ...common, name: "core", include: ["src/core/**/*.test.ts", "tests/*.test.ts"], isolate: false },
      },
      { extends: true, test: { ...common, name: "rest", include: ["src/!(core)/**/*.test.ts"] } },
    ],
  },
});
