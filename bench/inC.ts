import { spawnSync } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Compiles a program of bench/c with gcc -O2 and runs it: its median in ms, or null where there is no gcc. */
export function medianMsInC(name: string, ...args: string[]): number | null {
  const program = join(mkdtempSync(join(tmpdir(), "vantel-c-")), name);
  const built = spawnSync("gcc", ["-O2", "-o", program, `bench/c/${name}.c`, "-lm"]);
  if (built.error || built.status !== 0) return null;
  const run = spawnSync(program, args, { encoding: "utf8" });
  const ms = Number.parseFloat(run.stdout);
  return Number.isFinite(ms) ? ms : null;
}

/** How a time here stands beside the same loop in C. */
export const besideC = (ms: number, inC: number | null): string =>
  inC === null
    ? "no gcc here to compare with"
    : `${(ms / inC).toFixed(2)} times the same loop in C (${inC.toFixed(1)} ms)`;
