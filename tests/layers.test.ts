import { spawnSync } from "node:child_process";
import { copyFileSync, mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { expect, test } from "vitest";

/** What lint says of files with one import each, were they at these paths: by path, all that it says. */
function lint(files: readonly (readonly [string, string])[]): Map<string, string> {
  const folder = mkdtempSync(join(tmpdir(), "vantel-layers-"));
  copyFileSync("biome.json", join(folder, "biome.json"));
  for (const [path, imported] of files) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), `import { thing } from "${imported}";\n\nexport const other = thing;\n`);
  }
  const biome = join(process.cwd(), "node_modules/.bin/biome");
  const args = ["lint", "--colors=off", "--vcs-enabled=false", "--max-diagnostics=200"];
  const { stdout, stderr } = spawnSync(biome, args, { cwd: folder, encoding: "utf8" });
  const said = new Map<string, string>();
  for (const part of (stdout + stderr).split(/^(?=src\/)/m)) {
    const path = /^src\/\S+?(?=:)/.exec(part)?.[0];
    if (path) said.set(path, (said.get(path) ?? "") + part);
  }
  return said;
}

const forbidden = [
  ["src/core/gate/a.ts", "react", "Core imports nothing but itself, Zod, dequal and saxes"],
  ["src/core/gate/b.ts", "@stores/live", "Core imports nothing but itself, Zod, dequal and saxes"],
  ["src/core/gate/c.ts", "node:fs", "Core imports nothing but itself, Zod, dequal and saxes"],
  ["src/core/gate/d.ts", "../signal/frame", "Core imports nothing but itself, Zod, dequal and saxes"],
  ["src/core/gate/e.ts", "@core/signal/frame", "Import the folder's face"],
  ["src/core/project/edits/a.ts", "dexie", "Core imports nothing but itself, Zod, dequal and saxes"],
  ["src/worker/a.ts", "@stores/live", "Worker, storage and server import only core"],
  ["src/server/a.ts", "@stores/live", "Worker, storage and server import only core"],
  ["src/storage/a.ts", "@views/stations", "Worker, storage and server import only core"],
  ["src/stores/a.ts", "@views/stations", "never views"],
  ["src/views/drive/A.tsx", "@worker/bench", "never the worker or storage"],
  ["src/views/drive/B.tsx", "@core/gate/gate", "Import the folder's face"],
] as const;

const allowed = [
  ["src/core/gate/f.ts", "@core/signal"],
  ["src/core/project/a.ts", "zod"],
  ["src/worker/b.ts", "@core/engine"],
  ["src/stores/b.ts", "@storage/projectStore"],
  ["src/views/drive/C.tsx", "@stores/live"],
] as const;

test("lint keeps the layers: imports run one way, and only through the faces of core's folders", () => {
  const said = lint([...forbidden.map(([path, imported]) => [path, imported] as const), ...allowed]);
  for (const [path, , says] of forbidden) expect(said.get(path)).toContain(says);
  for (const [path] of allowed) expect(said.get(path) ?? "").not.toContain("noRestrictedImports");
});

test("lint finds imports that run in a circle, also those of types alone", () => {
  const said = lint([
    ["src/core/gate/x.ts", "./y"],
    ["src/core/gate/y.ts", "./x"],
  ]);
  expect(said.get("src/core/gate/x.ts")).toContain("noImportCycles");
});
