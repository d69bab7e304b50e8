import { readFile } from "node:fs/promises";
import { head, shapeOf, snapshotLength } from "@core/engine";
import { examine } from "@core/feasible";
import { readProjectFile } from "@core/files";
import type { Project, Routine } from "@core/project";
import { readyScore } from "@core/routine";
import { wireWords } from "@core/wire";
import { Command } from "commander";
import { outliveTerminal } from "../server/ending";
import { Bench } from "../worker/bench";
import { BenchClock } from "../worker/benchClock";
import { openNodeStream, wireIn } from "./nodeStream";

/** How it ended, for a script that started it. */
const exits = { done: 0, usage: 1, file: 2, infeasible: 3, wire: 4, fault: 70, interrupted: 130 } as const;

interface Options {
  readonly dry?: boolean;
  readonly loop?: boolean;
  readonly timetable?: boolean;
  readonly anyway?: boolean;
  readonly speed: string;
  readonly wire: readonly string[];
}

const openWithinMs = 8000;
/** A person sees that it stopped, before everything hangs limp. */
const holdBeforeReleaseMs = 1000;

class Refusal extends Error {
  constructor(
    readonly code: number,
    sentence: string,
  ) {
    super(sentence);
  }
}

const sleep = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** The project with its wires as they are asked for here. */
function wiredAs(project: Project, { dry, wire }: Options): Project {
  if (dry) return { ...project, boards: project.boards.map((board) => ({ ...board, link: { kind: "simulated" } })) };
  let boards = project.boards;
  for (const text of wire) {
    const at = text.indexOf("=");
    const label = text.slice(0, at);
    const link = at > 0 ? wireIn(text.slice(at + 1)) : null;
    if (!link)
      throw new Refusal(
        exits.usage,
        `“${text}” is no wire. Write BOARD=/dev/ttyUSB0, BOARD=/dev/ttyUSB0@57600 or BOARD=tcp:host:port.`,
      );
    if (!boards.some((board) => board.label === label))
      throw new Refusal(
        exits.usage,
        `The project has no board ${label}. It has ${boards.map((board) => board.label).join(", ")}.`,
      );
    boards = boards.map((board) => (board.label === label ? { ...board, link } : board));
  }
  return { ...project, boards };
}

function routineIn(project: Project, name: string): Routine {
  const found = project.routines.find((routine) => routine.id === name || routine.name === name);
  if (found) return found;
  const names = project.routines.map((routine) => `“${routine.name}”`).join(", ") || "none";
  throw new Refusal(exits.file, `The project has no routine “${name}”. It has ${names}.`);
}

async function perform(path: string, name: string, options: Options): Promise<number> {
  const text = await readFile(path, "utf8").catch(() => {
    throw new Refusal(exits.file, `${path} cannot be read.`);
  });
  const file = readProjectFile(text);
  if (!file.ok) throw new Refusal(exits.file, file.problem);
  const project = wiredAs(file.value.project, options);
  const routine = routineIn(project, name);
  const speed = Number(options.speed) / 100;
  if (!(speed >= 0.1 && speed <= 3)) throw new Refusal(exits.usage, "A routine plays at 10 to 300 per cent.");
  check(project, routine, new Map(file.value.takes.map((take) => [take.id, take])), speed, options);

  const bench = new Bench({ openStream: openNodeStream, nowMs: () => performance.now() });
  bench.epochMs = performance.timeOrigin;
  bench.onNews = (sentence) => say(sentence);
  bench.onFault = (sentence) => say(sentence);
  for (const take of file.value.takes) bench.giveTake(take);
  bench.configure(project, 1);
  const clock = new BenchClock(bench);
  clock.start();
  let interrupts = 0;
  process.on("SIGINT", () => {
    interrupts += 1;
  });
  // Nobody is there to see that it stopped.
  for (const signal of ["SIGTERM", "SIGHUP"]) process.on(signal, () => (interrupts += 2));
  let hasFault = false;
  process.on("uncaughtException", (error) => {
    if (!hasFault) say(`It met a fault of its own: ${error.message}`);
    hasFault = true;
    interrupts += 2;
  });
  outliveTerminal();
  try {
    await untilOpen(bench, project, () => interrupts > 0);
    bench.command({ kind: "holdAll" }, performance.now());
    bench.command({ kind: "playSpeed", speed }, performance.now());
    if (options.timetable) {
      if (!routine.timetable) throw new Refusal(exits.file, `“${routine.name}” has no timetable.`);
      bench.arm([routine.id]);
      say(`Armed; “${routine.name}” starts by its timetable. Ctrl C ends it.`);
    }
    do {
      if (!options.timetable) {
        const begun = bench.command({ kind: "play", routineId: routine.id }, performance.now());
        if (!begun.ok) throw new Refusal(exits.file, begun.problem);
      }
      await untilOver(bench, project, routine, () => interrupts > 0);
      const lost = bench.linkReports.find(({ state, life }) => state !== "live" || life !== "open");
      if (lost)
        throw new Refusal(exits.wire, lost.sentence || `The link to ${labelOf(project, lost.boardId)} was lost.`);
    } while (interrupts === 0 && (options.loop || options.timetable));
    if (interrupts > 0) {
      bench.command({ kind: "stop" }, performance.now());
      say(`Stopped${interrupts < 2 ? ", and held; everything is released in a second" : "; everything is released"}.`);
      for (let ms = 0; ms < holdBeforeReleaseMs && interrupts < 2; ms += 50) await sleep(50);
      return hasFault ? exits.fault : exits.interrupted;
    }
    return exits.done;
  } finally {
    bench.command({ kind: "releaseAll" }, performance.now());
    await sleep(60);
    clock.stop();
    bench.end(performance.now());
    await sleep(150);
  }
}

/** Refuses what the servos cannot do, sentence by sentence, unless told to go on. */
function check(
  project: Project,
  routine: Routine,
  takes: Parameters<typeof readyScore>[2],
  speed: number,
  { anyway }: Options,
): void {
  const score = readyScore(project, routine, takes);
  if (!score.ok) throw new Refusal(exits.file, score.problem);
  const { findings } = examine(project, score.value, { hasGhost: false, speed });
  for (const { fromMs, sentence } of findings) say(`at ${(fromMs / 1000).toFixed(2)} s: ${sentence}`);
  if (findings.length > 0 && !anyway)
    throw new Refusal(
      exits.infeasible,
      `“${routine.name}” asks for what its servos cannot do, in ${findings.length} places. Mend it on the bench, or say --anyway.`,
    );
}

const labelOf = (project: Project, boardId: string) =>
  project.boards.find(({ id }) => id === boardId)?.label ?? boardId;

async function untilOpen(bench: Bench, project: Project, isInterrupted: () => boolean): Promise<void> {
  for (const board of project.boards) say(`${board.label}: ${wireWords(board.link)}`);
  const untilMs = performance.now() + openWithinMs;
  for (;;) {
    const missing = bench.linkReports.filter(({ state }) => state !== "live");
    if (missing.length === 0) return;
    const refused = missing.find(({ state }) => state === "refused");
    if (refused) throw new Refusal(exits.wire, refused.sentence);
    if (isInterrupted()) throw new Refusal(exits.interrupted, "Ended before anything moved.");
    if (performance.now() > untilMs) {
      const [first] = missing;
      const label = labelOf(project, first?.boardId ?? "");
      throw new Refusal(exits.wire, first?.sentence || `${label} does not answer.`);
    }
    await sleep(20);
  }
}

/** A line that says how far it is, while it plays; on a terminal it is written over itself. */
async function untilOver(
  bench: Bench,
  project: Project,
  routine: Routine,
  isInterrupted: () => boolean,
): Promise<void> {
  const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
  let saidMs = 0;
  // A command is taken at once, and what plays by it from the next frame on.
  await sleep(60);
  while (!isInterrupted()) {
    bench.write(snapshot);
    const isPlaying = bench.isPlaying;
    if (!isPlaying && !bench.isArmed) break;
    if (performance.now() - saidMs > (process.stderr.isTTY ? 200 : 2000)) {
      saidMs = performance.now();
      const at = ((snapshot[head.scoreMs] ?? 0) / 1000).toFixed(1);
      line(isPlaying ? `${routine.name}: ${at} s` : "waiting for the timetable");
    }
    if (bench.linkReports.some(({ state }) => state !== "live")) break;
    await sleep(20);
  }
  if (process.stderr.isTTY) process.stderr.write("\n");
}

const say = (sentence: string) => void process.stderr.write(`${process.stderr.isTTY ? "\r\x1b[K" : ""}${sentence}\n`);
const line = (text: string) => void process.stderr.write(process.stderr.isTTY ? `\r\x1b[K${text}` : `${text}\n`);

const program = new Command("bin/perform")
  .description(
    "Plays a routine of an exported project on its real wires, without a browser: the same engine, gate and links.",
  )
  .argument("<file>", "the exported project")
  .argument("<routine>", "the routine, by its name")
  .option("--dry", "on simulated boards: nothing real is opened")
  .option("--loop", "again and again, until Ctrl C")
  .option("--timetable", "whenever its timetable says")
  .option("--anyway", "although the servos cannot do all of it")
  .option("--speed <percent>", "how fast: 10 to 300", "100")
  .option(
    "--wire <board=wire>",
    "another wire for a board: /dev/ttyUSB0, /dev/ttyUSB0@57600 or tcp:host:port",
    (one: string, all: string[]) => [...all, one],
    [],
  )
  .addHelpText(
    "after",
    "\nIt ends with 0 when it has played, 2 for a file or routine that cannot be played, 3 for one that the servos cannot do, 4 for trouble with a wire, 70 for a fault of its own, 130 after Ctrl C.\nCtrl C stops and holds, and releases a second later; whatever else ends it releases at once.",
  )
  .exitOverride((error) => process.exit(error.exitCode === 0 ? 0 : exits.usage));

program.action(async (path: string, name: string) => {
  try {
    process.exitCode = await perform(path, name, program.opts<Options>());
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    say(error.message);
    process.exitCode = error.code;
  }
  process.exit();
});
await program.parseAsync();
