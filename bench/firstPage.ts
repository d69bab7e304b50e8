import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";

const root = "dist/client";

/** Every script that the first page and the drive station load before they can be used, compressed as our server sends it (brotli), and as one with gzip would. */
export function firstPage(): string[] {
  if (!existsSync(join(root, "index.html"))) return ["The site is not built: run bin/start or npm run build first."];
  const pages = ["index.html", "drive/index.html"].map((page) => {
    const html = readFileSync(join(root, page), "utf8");
    const entries = [...html.matchAll(/(?:src|component-url|renderer-url)="(\/_astro\/[^"]+\.js)"/g)].map(
      ([, url]) => url as string,
    );
    const scripts = new Set<string>();
    for (const url of entries) follow(url, scripts);
    const codes = [...scripts].map((url) => readFileSync(join(root, url)));
    const kB = (pack: (code: Buffer) => Buffer) =>
      (codes.reduce((sum, code) => sum + pack(code).length, 0) / 1000).toFixed(1);
    return `${page}: ${kB(brotliCompressSync)} kB in ${scripts.size} files (aim: under 150 kB), ${kB(gzipSync)} kB with gzip`;
  });
  const worker = readdirSync(join(root, "_astro")).find((name) => name.startsWith("benchWorker")) ?? "";
  const workerBytes = gzipSync(readFileSync(join(root, "_astro", worker))).length;
  return [...pages, `the bench worker, beside each: ${(workerBytes / 1000).toFixed(1)} kB`];
}

/** A script and all that it imports statically; what is imported when asked for does not count. */
function follow(url: string, scripts: Set<string>): void {
  if (scripts.has(url)) return;
  scripts.add(url);
  const code = readFileSync(join(root, url), "utf8");
  for (const [, imported] of code.matchAll(/(?:from|import)\s*"(\.\.?\/[^"]+\.js)"/g))
    follow(join(dirname(url), imported as string), scripts);
}
