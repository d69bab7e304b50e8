import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";
import { layerAliases } from "./layers.mjs";

/** What takes longest, the longest first: begun late, one of them would run on alone. */
const long = ["byKeyboard", "access", "cards"];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rankOf = ({ moduleId }: TestSpecification) => {
      const rank = long.findIndex((name) => moduleId.endsWith(`/${name}.e2e.ts`));
      return rank < 0 ? long.length : rank;
    };
    return (await super.sort(files)).toSorted((a, b) => rankOf(a) - rankOf(b));
  }
}

export default defineConfig({
  resolve: { alias: layerAliases },
  test: {
    include: ["tests/e2e/**/*.e2e.ts"],
    environment: "node",
    // Two sittings at a time: most of their time is that of servos on their way.
    maxWorkers: 2,
    sequence: { sequencer: LongestFirst },
    testTimeout: 300_000,
    hookTimeout: 120_000,
    setupFiles: ["tests/e2e/sitting.ts"],
    globalSetup: ["tests/tempFolder.ts", "tests/e2e/served.ts"],
  },
});
