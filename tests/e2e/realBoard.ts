import { type ChildProcess, spawn } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { ChannelGroup } from "@core/link";
import type { Board } from "@core/project";
import { channelGroupsOf } from "@core/signal";
import { builtFirmware } from "../fuzz/firmware";
import { until } from "./waiting";

/** A pulse that came out of a pin. */
export interface Pulse {
  readonly channel: number;
  readonly atNs: number;
  readonly lengthNs: number;
}

const wordsOf = (groups: readonly ChannelGroup[]) =>
  groups
    .map((one) =>
      [`${one.first}-${one.last}`, one.periodNs, one.lowestCount, one.atLowest, one.highestCount, one.atHighest].join(
        ":",
      ),
    )
    .join(",");

/** The firmware on a pseudo-terminal or a TCP port, as the board that a project describes, with what comes out of its pins. */
export class RealBoard {
  readonly folder = mkdtempSync(join(tmpdir(), "vantel-board-"));
  readonly port = join(this.folder, "port");
  readonly #vcd = join(this.folder, "pins.vcd");
  readonly #log = join(this.folder, "lines.log");
  readonly #words: readonly string[];
  #program: ChildProcess | null = null;

  constructor(board: Board, groups = channelGroupsOf(board), tcp: number | null = null) {
    const { afterMs, action } = board.silence;
    const way = tcp === null ? ["--pty", this.port] : ["--tcp", String(tcp)];
    this.#words = [...way, "--name", board.label, "--groups", wordsOf(groups), "--silence", String(afterMs), action];
  }

  /** Switches it on; what its pins did before is forgotten. */
  async start(): Promise<void> {
    const program = builtFirmware("vantel-board");
    for (const old of [this.#vcd, this.#log]) rmSync(old, { force: true });
    this.#program = spawn(program, [...this.#words, "--vcd", this.#vcd, "--log", this.#log], { stdio: "inherit" });
    await until(
      () => existsSync(this.#log),
      (isThere) => isThere,
    );
  }

  signal(name: NodeJS.Signals): void {
    this.#program?.kill(name);
  }

  /** Cuts its power. */
  async kill(): Promise<void> {
    const program = this.#program;
    this.#program = null;
    if (!program) return;
    const isGone = new Promise((done) => program.once("exit", done));
    program.kill("SIGKILL");
    await isGone;
  }

  /** All whole pulses that its pins have made, in the order in which they ended. */
  get pulses(): readonly Pulse[] {
    const rose = new Map<string, number>();
    const pulses: Pulse[] = [];
    let atNs = 0;
    for (const line of readFileSync(this.#vcd, "latin1").split("\n").slice(0, -1)) {
      if (line.startsWith("#")) atNs = Number(line.slice(1));
      const [, level, pin = ""] = /^([01])(.)$/.exec(line) ?? [];
      const from = rose.get(pin);
      if (level === "1") rose.set(pin, atNs);
      else if (level === "0" && from !== undefined) {
        pulses.push({ channel: pin.charCodeAt(0) - 33, atNs: from, lengthNs: atNs - from });
        rose.delete(pin);
      }
    }
    return pulses;
  }

  /** Every whole line that it was told, with when, in ns. */
  get lines(): readonly { readonly atNs: number; readonly line: string }[] {
    return readFileSync(this.#log, "latin1")
      .split("\n")
      .slice(0, -1)
      .map((text) => ({ atNs: Number(text.slice(0, text.indexOf(" "))), line: text.slice(text.indexOf(" ") + 1) }));
  }
}

/** The counts that a frame names, by channel; null for any other line. */
export function countsIn(line: string): ReadonlyMap<number, number> | null {
  if (!line.startsWith("S ")) return line.startsWith("R ") ? new Map() : null;
  const words = line.replace(/#.*$/, "").split(" ").slice(2);
  return new Map(words.map((word) => word.split(":").map(Number) as [number, number]));
}
