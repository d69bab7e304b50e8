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
        // These keep nothing between two calls, so that their tests share their modules: loading those took longer than testing them.
        test: { ...common, name: "plain", include: ["src/!(stores)/**/*.test.ts", "tests/*.test.ts"], isolate: false },
      },
      { extends: true, test: { ...common, name: "stores", include: ["src/stores/**/*.test.ts"] } },
    ],
  },
});
