import { readFileSync } from "node:fs";
import type { ServerResponse } from "node:http";
import sirv from "sirv";

/** What every answer carries: this bench is shown in no frame, loads nothing from elsewhere, and runs no script but its own. */
export function securityHeaders(scriptHashes: readonly string[]): Readonly<Record<string, string>> {
  const policy = [
    "default-src 'self'",
    `script-src 'self' ${scriptHashes.map((hash) => `'${hash}'`).join(" ")}`.trim(),
    // Needles and channels are placed by style attributes.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "worker-src 'self' blob:",
    "connect-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ];
  return {
    "Content-Security-Policy": policy.join("; "),
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Referrer-Policy": "no-referrer",
    "X-Content-Type-Options": "nosniff",
  };
}

/** The hashes of the scripts that stand in the pages themselves, as the build counted them. */
export const scriptHashesIn = (path: string): readonly string[] => JSON.parse(readFileSync(path, "utf8")) as string[];

/** Serves the built pages, compressed as the build left them. What bears a hash in its name never changes. */
export const pagesOf = (folder: string) =>
  sirv(folder, {
    brotli: true,
    gzip: true,
    etag: true,
    dotfiles: false,
    setHeaders: (response: ServerResponse, path: string) => {
      const isForever = path.startsWith("/_astro/");
      response.setHeader("Cache-Control", isForever ? "public, max-age=31536000, immutable" : "no-cache");
    },
  });
