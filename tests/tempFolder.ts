import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** What tests write (profiles of browsers, boards' lines, code that is compiled) lies in one folder of its own, that goes when they are over. */
export default function keepTogether(): () => void {
  const before = process.env.TMPDIR;
  const folder = mkdtempSync(join(tmpdir(), "vantel-"));
  process.env.TMPDIR = folder;
  return () => {
    rmSync(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
    if (before === undefined) delete process.env.TMPDIR;
    else process.env.TMPDIR = before;
  };
}
