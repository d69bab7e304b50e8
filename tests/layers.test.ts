import { spawnSync } from "node:child_process";
import { expect, test } from "vitest";

/** What lint says of a file with this one import, were it at this path. */
function lint(path: string, imported: string): string {
  const code = `import { thing } from "${imported}";\n\nexport const other = thing;\n`;
  const run = spawnSync("npx", ["biome", "lint", "--colors=off", `--stdin-file-path=${path}`], {
    input: code,
    encoding: "utf8",
  });
  return run.stdout + run.stderr;
}

test.each([
  ["src/core/gate/a.ts", "react", "Core imports nothing but itself and Zod"],
  ["src/core/gate/a.ts", "@stores/live", "Core imports nothing but itself and Zod"],
  ["src/core/gate/a.ts", "node:fs", "Core imports nothing but itself and Zod"],
  ["src/core/gate/a.ts", "../signal/frame", "Core imports nothing but itself and Zod"],
  ["src/core/gate/a.ts", "@core/signal/frame", "Import the folder's face"],
  ["src/core/project/edits/a.ts", "dexie", "Core imports nothing but itself and Zod"],
  ["src/worker/a.ts", "@stores/live", "Worker and storage import only core"],
  ["src/storage/a.ts", "@views/stations", "Worker and storage import only core"],
  ["src/stores/a.ts", "@views/stations", "never views"],
  ["src/views/drive/A.tsx", "@worker/bench", "never the worker or storage"],
  ["src/views/drive/A.tsx", "@core/gate/gate", "Import the folder's face"],
])("%s must not import %s", (path, imported, says) => {
  expect(lint(path, imported)).toContain(says);
});

test.each([
  ["src/core/gate/a.ts", "@core/signal"],
  ["src/core/project/a.ts", "zod"],
  ["src/worker/a.ts", "@core/engine"],
  ["src/stores/a.ts", "@storage/projectStore"],
  ["src/views/drive/A.tsx", "@stores/live"],
])("%s may import %s", (path, imported) => {
  expect(lint(path, imported)).not.toContain("noRestrictedImports");
});
