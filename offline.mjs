import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import { join, relative, sep } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

/** A name with a hash of its own in it needs no other to tell its versions apart. */
const isHashed = (path) => path.startsWith("_astro/");

/** `/drive` is what a page is called; `drive/index.html` is the file that holds it. */
const urlOf = (path) => `/${path.replace(/\/?index\.html$/, "")}`;

/**
 * Writes the service worker once the site is built: it keeps every page and all that they load, so that the bench opens with its server ended
 * (`src/offline/serviceWorker.ts`).
 */
export const offline = () => ({
  name: "offline",
  hooks: {
    "astro:build:done": async ({ dir }) => {
      const root = fileURLToPath(dir);
      const files = (await readdir(root, { recursive: true, withFileTypes: true }))
        .filter((entry) => entry.isFile())
        .map((entry) => relative(root, join(entry.parentPath, entry.name)).split(sep).join("/"));
      const kept = await Promise.all(
        files.sort().map(async (path) => ({
          url: urlOf(path),
          revision: isHashed(path)
            ? null
            : createHash("sha256")
                .update(await readFile(join(root, path)))
                .digest("hex")
                .slice(0, 16),
        })),
      );
      await build({
        entryPoints: ["src/offline/serviceWorker.ts"],
        outfile: join(root, "sw.js"),
        bundle: true,
        minify: true,
        target: "es2022",
        define: { keptFiles: JSON.stringify(kept), "process.env.NODE_ENV": '"production"' },
        logLevel: "warning",
      });
    },
  },
});
