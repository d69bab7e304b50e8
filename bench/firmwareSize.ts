import { spawnSync } from "node:child_process";

/** What the board's half of the link costs with 16 channels: on this computer, and on a small processor where a compiler for one is installed. */
export function firmwareSize(): string[] {
  const sizeWith = (name: string, words: readonly string[]): string => {
    const { stdout, status } = spawnSync("make", ["-s", "-C", "firmware", "size", ...words], { encoding: "utf8" });
    const [text, data, bss] = (stdout?.trim().split("\n").at(-1) ?? "").trim().split(/\s+/).map(Number);
    return status === 0 && text !== undefined
      ? `${name}: ${text} bytes of program (aim: under 8192), ${(data ?? 0) + (bss ?? 0)} of memory (aim: under 700)`
      : `${name}: no compiler for it is here`;
  };
  return [sizeWith("this computer", []), sizeWith("an 8-bit processor", ["CROSS=avr-", "SIZEFLAGS=-mmcu=avr5"])];
}
