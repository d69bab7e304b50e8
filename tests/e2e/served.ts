import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { createServer } from "node:net";
import type { TestProject } from "vitest/node";

declare module "vitest" {
  interface ProvidedContext {
    baseUrl: string;
  }
}

const startWithinMs = 20_000;

/** Serves the built site on a free port for as long as the tests run. */
export default async function serve(project: TestProject): Promise<() => void> {
  // Once, before two files want it at the same moment.
  execFileSync("make", ["-s", "-C", "firmware"], { stdio: "inherit" });
  const { url, server } = await startServer();
  project.provide("baseUrl", url);
  return () => server.kill();
}

/** @param root the folder whose `dist` is served: this one's, where none is given */
export async function startServer(wantedPort?: number, root = "."): Promise<{ url: string; server: ChildProcess }> {
  const port = wantedPort ?? (await freePort());
  const server = spawn(process.execPath, [`${root}/dist/server/vantel.mjs`], {
    env: { ...process.env, HOST: "127.0.0.1", PORT: String(port) },
    stdio: "ignore",
  });
  const url = `http://127.0.0.1:${port}`;
  for (const endMs = Date.now() + startWithinMs; Date.now() < endMs; ) {
    const answer = await fetch(`${url}/api/health`).catch(() => null);
    if (answer?.ok) return { url, server };
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  server.kill();
  throw new Error("The server did not come up. Was the site built?");
}

/** A port of this machine that nobody has. */
export function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once("error", reject);
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });
}
