import { createHash } from "node:crypto";
import { readdir, readFile, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { brotliCompress, gzip } from "node:zlib";
import { build } from "esbuild";
import { layerAliases } from "./layers.mjs";

/** What is worth compressing; pictures and fonts are so already. */
const isText = (path) => /\.(html|js|css|svg|json|webmanifest|txt|vcd)$/.test(path);
const inlineScript = /<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g;

/**
 * Makes what the server needs once the site is built: compressed copies of the pages, the hashes of the scripts within them for the content security
 * policy, and the server and the tools
 * (`src/server`, `src/tools`), each in one file.
 */
export const serving = () => ({
  name: "serving",
  hooks: {
    "astro:build:done": async ({ dir }) => {
      const root = fileURLToPath(dir);
      const server = join(root, "../server");
      const files = (await readdir(root, { recursive: true, withFileTypes: true }))
        .filter((entry) => entry.isFile() && isText(entry.name))
        .map((entry) => join(entry.parentPath, entry.name));
      const hashes = new Set();
      for (const path of files) {
        const content = await readFile(path);
        if (path.endsWith(".html"))
          for (const [, script] of content.toString().matchAll(inlineScript))
            hashes.add(`sha256-${createHash("sha256").update(script).digest("base64")}`);
        await writeFile(`${path}.gz`, await promisify(gzip)(content, { level: 9 }));
        await writeFile(`${path}.br`, await promisify(brotliCompress)(content));
      }
      await writeFile(join(server, "scripts.json"), JSON.stringify([...hashes].sort()));
      await build({
        entryPoints: {
          vantel: "src/server/main.ts",
          perform: "src/tools/perform.ts",
          "try-board": "src/tools/tryBoard.ts",
        },
        outdir: server,
        outExtension: { ".js": ".mjs" },
        bundle: true,
        platform: "node",
        format: "esm",
        target: "node20",
        // These bring parts that are not JavaScript, or are found at run time.
        external: ["serialport", "ws", "sirv", "commander", "selfsigned", "mqtt", "aedes", "node-osc", "sacn"],
        alias: layerAliases,
        logLevel: "warning",
      });
    },
  },
});
