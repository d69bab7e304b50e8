import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PacketReader, rawIn, reachOf, toldIn } from "../../src/core/bus";
import { Engine } from "../../src/core/engine";
import { cFiles, type Machine, noCount, pythonFile, waitsOf } from "../../src/core/handOff";
import type { HandOff, OwnLines, Project, Register, TakeData } from "../../src/core/project";
import type { Event } from "./ledRig";

/** The lines of a person whose platform writes down what it is told. */
export const writtenDown: OwnLines = {
  top: "#include <stdint.h>\nvoid set_count(unsigned board, unsigned channel, long count);\nvoid send_all(unsigned board, const uint8_t *bytes, unsigned length);",
  start: "",
  set: "set_count({board}, {channel}, (long){count});",
  off: "set_count({board}, {channel}, -1);",
  send: "send_all({board}, {bytes}, {length});",
};

const strict = ["-std=c99", "-O2", "-Wall", "-Wextra", "-Wconversion", "-Werror", "-pedantic"];

/** One run of the code: plays a routine for so many frames, or asks a joint for many targets. */
export interface Asked {
  readonly routine: number;
  readonly frames: number;
}

/** A pose is gone to in so long. */
export const glideMs = 730;

export type Numbers = HandOff["numbers"];

/** What a target is multiplied by in the code. */
const scalesOf = ({ joints }: Machine, numbers: Numbers) =>
  joints.map(({ unit }) => (numbers === "real" ? 1 : unit === "°" ? 65_536 : 16_777_216));

const harness = (machine: Machine, waits: number, numbers: Numbers) => {
  const { name, joints, poses, routines } = machine;
  const asked = "(low + (high - low) * (double)at / (double)(many - 1))";
  return `
#include "${name}.h"
#include <stdio.h>
#include <stdlib.h>
#include <math.h>
static long counts[1024];
void set_count(unsigned board, unsigned channel, long count) { counts[board * 256 + channel] = count; }
${waits > 0 ? `bool ${name}_is_met(uint8_t wait) { (void)wait; return false; }` : ""}
static char wire[1 << 20];
static size_t sent;
void send_all(unsigned board, const uint8_t *bytes, unsigned length)
{
  sent += (size_t)sprintf(wire + sent, " %u:", board);
  for (unsigned i = 0; i < length; i++) sent += (size_t)sprintf(wire + sent, "%02X", bytes[i]);
}
static void play(long frames);
static const double scales[] = { ${scalesOf(machine, numbers).join(", ")} };
static const unsigned channels[] = { ${joints.map(({ boardAt, channel }) => boardAt * 256 + channel).join(", ")} };
static void frame(long tick)
{
  ${name}_tick((uint32_t)(tick * FRAME_MS));
  for (int at = 0; at < JOINT_COUNT; at++) printf("%ld ", counts[channels[at]]);
  printf("|%s\\n", wire);
  sent = 0;
  wire[0] = 0;
}
static void happens(void)
{
  char what; int of; double value;
  if (scanf(" %c %d %lf", &what, &of, &value) != 3) exit(6);
  if (what == 'h') ${name}_hold();
  else if (what == 's') ${name}_stop();
  else if (what == 'r') ${name}_release();
  else if (what == 'g') ${name}_go((uint8_t)of, (Target)value);
${machine.sources.length > 0 ? `  else if (what == 'f') ${name}_feed((uint8_t)of, value);` : ""}
${poses.length > 0 ? `  else if (what == 'p') ${name}_pose((uint8_t)of, value);` : ""}
${routines.length > 0 ? `  else if (what == 'l') ${name}_play((uint8_t)of);` : ""}
}
static void play(long frames)
{
  for (long tick = 0; tick < frames; tick++) frame(tick);
}
int main(int argc, char **argv)
{
  char what; int of; long many; double low, high;
  (void)argc; (void)argv; (void)scales;
  while (scanf(" %c %d %ld", &what, &of, &many) == 3) {
    if (what == 'p') {
      for (int i = 0; i < 1024; i++) counts[i] = -1;
      ${name}_begin();
      ${name}_hold();
      ${routines.length > 0 ? `${name}_play((uint8_t)of);` : ""}
      play(many);
    } else if (what == 'e') {
      for (int i = 0; i < 1024; i++) counts[i] = -1;
      ${name}_begin();
      for (long tick = 0; tick < many; tick++) {
        int events;
        if (scanf("%d", &events) != 1) return 7;
        while (events--) happens();
        frame(tick);
      }
    } else if (what == 'g') {
      for (int i = 0; i < 1024; i++) counts[i] = -1;
      ${name}_begin();
      ${name}_hold();
      ${poses.length > 0 ? `${name}_pose((uint8_t)of, ${glideMs});` : ""}
      play(many);
      if (${name}_is_moving()) return 5;
    } else {
      if (scanf("%lf %lf", &low, &high) != 2) return 4;
      ${name}_begin();
      for (long at = 0; at < many; at++)
        printf("%ld\\n", (long)${name}_count_of((uint8_t)of, ${numbers === "real" ? asked : `(Target)floor(${asked} * scales[of] + 0.5)`}));
    }
  }
  return 0;
}
`;
};

/** Compiles a machine's code with all warnings as errors, and lets it answer: a line a frame, or a number a target. */
export function runC(
  machine: Machine,
  asks: readonly string[],
  numbers: Numbers = "real",
  sanitizes = false,
): readonly string[] {
  const folder = mkdtempSync(join(tmpdir(), "vantel-hand-off-"));
  try {
    const files = cFiles(machine, writtenDown, numbers);
    for (const { name, text } of files) writeFileSync(join(folder, name), text);
    writeFileSync(join(folder, "harness.c"), harness(machine, waitsOf(machine).length, numbers));
    const program = join(folder, "program");
    const more = sanitizes ? ["-fsanitize=address,undefined", "-fno-sanitize-recover=all"] : [];
    execFileSync("gcc", [...strict, ...more, "-c", join(folder, `${machine.name}.c`), "-o", join(folder, "made.o")], {
      stdio: "pipe",
    });
    execFileSync(
      "gcc",
      ["-std=c99", "-O1", ...more, join(folder, "harness.c"), join(folder, "made.o"), "-o", program, "-lm"],
      { stdio: "pipe" },
    );
    const said = execFileSync(program, { input: `${asks.join("\n")}\n`, maxBuffer: 1 << 30 });
    return said.toString().trimEnd().split("\n");
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const pythonWritten: OwnLines = {
  top: "counts = {}\nwire = []",
  start: "",
  set: "counts[{board}, {channel}] = {count}",
  off: "counts[{board}, {channel}] = -1",
  send: "wire.append('%d:%s' % ({board}, ''.join('%02X' % one for one in {bytes})))",
};

const pythonHarness = (machine: Machine, numbers: Numbers) => {
  const { name, joints } = machine;
  return `
import math, sys
import ${name} as made
scales = [${scalesOf(machine, numbers).join(", ")}]
channels = [${joints.map(({ boardAt, channel }) => `(${boardAt}, ${channel})`).join(", ")}]
out = []
def frame(rig, tick):
    rig.tick(tick * made.FRAME_MS)
    out.append(" ".join(str(made.counts.get(channel, -1)) for channel in channels) + " | " + " ".join(made.wire))
    made.wire.clear()
def happens(rig, what, of, value):
    if what == "h": rig.hold()
    elif what == "s": rig.stop()
    elif what == "r": rig.release()
    elif what == "g": rig.go(of, value)
    elif what == "f": rig.feed(of, value)
    elif what == "p": rig.pose(of, value)
    elif what == "l": rig.play(of)
for line in sys.stdin:
    what, of, many, *rest = line.split()
    if what == "e":
        made.counts.clear()
        rig = made.Rig()
        for tick in range(int(many)):
            told = sys.stdin.readline().split()
            for at in range(int(told[0])):
                happens(rig, told[1 + 3 * at], int(told[2 + 3 * at]), float(told[3 + 3 * at]))
            frame(rig, tick)
        continue
    if what in "pg":
        made.counts.clear()
        rig = made.Rig()
        rig.hold()
        if what == "g":
            rig.pose(int(of), ${glideMs})
        elif hasattr(rig, "play"):
            rig.play(int(of))
        for tick in range(int(many)):
            frame(rig, tick)
    else:
        rig = made.Rig()
        low, high, many = float(rest[0]), float(rest[1]), int(many)
        for at in range(many):
            target = low + (high - low) * at / (many - 1)
            count = rig.count_of(int(of), ${numbers === "real" ? "target" : "math.floor(target * scales[int(of)] + 0.5)"})
            out.append(str(-2147483648 if count is None else count))
print("\\n".join(out))
`;
};

/** Runs a machine's code in Python, and lets it answer as `runC` does. */
export function runPython(machine: Machine, asks: readonly string[], numbers: Numbers = "real"): readonly string[] {
  const folder = mkdtempSync(join(tmpdir(), "vantel-hand-off-"));
  try {
    const { name, text } = pythonFile(machine, pythonWritten, numbers);
    writeFileSync(join(folder, name), text);
    writeFileSync(join(folder, "harness_.py"), pythonHarness(machine, numbers));
    const said = execFileSync("python3", ["-W", "error", join(folder, "harness_.py")], {
      input: `${asks.join("\n")}\n`,
      maxBuffer: 1 << 30,
      stdio: "pipe",
    });
    return said.toString().trimEnd().split("\n");
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/**
 * What frames of a routine say, as numbers: the counts of pulses, and of smart servos the goal that the wire told last, while it was told to hold. The bytes are read by the bench's own
 * reader of packets; one that it cannot read is told.
 */
export function saidFrames({ joints, families }: Machine, lines: readonly string[]): readonly (readonly number[])[] {
  const goals = new Map<string, number>();
  const held = new Set<string>();
  return lines.map((line) => {
    const [pulses = "", wire = ""] = line.split("|");
    for (const sent of wire.trim().split(/\s+/).filter(Boolean)) {
      const [board = "", hex = ""] = sent.split(":");
      const bytes = Uint8Array.from(hex.match(/../g) ?? [], (pair) => Number.parseInt(pair, 16));
      const known = families.some((family) => {
        let isKnown = false;
        new PacketReader(family.layout, "request").read(bytes, (heard) => {
          if (heard.kind !== "packet") return;
          const operation = family.layout.operations.find(({ code }) => code === heard.packet.operation);
          const told = operation && toldIn(family.layout, operation, heard.packet.parameters);
          if (!told) return;
          const each = told.each ?? [{ id: heard.packet.id, data: told.data }];
          // With a short check the bytes of one family may happen to be a packet of another.
          const isMine = (id: number) =>
            family.joints.some((place) => joints[place]?.channel === id && joints[place]?.boardAt === Number(board));
          if (!each.every(({ id }) => isMine(id))) return;
          isKnown = true;
          for (const { id, data } of each) {
            const key = `${board}/${id}`;
            const isOf = (register: Register | null) => register !== null && told.address === reachOf(register).address;
            if (isOf(family.goal))
              goals.set(
                key,
                rawIn(family.layout, family.goal, data ?? [], family.goal.address - reachOf(family.goal).address),
              );
            else if (isOf(family.torque) && data?.[0] === 1) held.add(key);
            else held.delete(key);
          }
        });
        return isKnown;
      });
      if (!known) throw new Error(`no packet of any family: ${hex}`);
    }
    const counts = pulses.trim().split(/\s+/).map(Number);
    return joints.map(({ setPointUnit, boardAt, channel }, at) => {
      const key = `${boardAt}/${channel}`;
      if (setPointUnit === "µs") return counts[at] === -1 ? noCount : (counts[at] ?? Number.NaN);
      return held.has(key) ? (goals.get(key) ?? Number.NaN) : noCount;
    });
  });
}

/** What of the machine moves by itself: a routine, or a way to a pose, by its place. */
export type Moved = { readonly kind: "routine" | "pose"; readonly at: number };

const letters = { feed: "f", go: "g", play: "l", pose: "p", stop: "s", release: "r", hold: "h" } as const;

/** Events as the programs read them: a line a tick. */
export const eventLines = (events: readonly (readonly Event[])[]): readonly string[] =>
  events.map((tick) =>
    [
      tick.length,
      ...tick.map((event) => {
        const letter = letters[event.kind];
        if (event.kind === "feed") return `${letter} ${event.source} ${event.value}`;
        if (event.kind === "go") return `${letter} ${event.joint} ${event.target}`;
        if (event.kind === "play") return `${letter} ${event.routine} 0`;
        return event.kind === "pose" ? `${letter} ${event.pose} ${event.moveMs}` : `${letter} 0 0`;
      }),
    ].join(" "),
  );

/** What the bench sends while these things happen. */
export function benchEvents(
  project: Project,
  takes: readonly TakeData[],
  machine: Machine,
  events: readonly (readonly Event[])[],
) {
  const engine = new Engine();
  for (const take of takes) engine.giveTake(take);
  engine.configure(project, 1);
  const idOf = (items: readonly { readonly id: string }[], at: number) => items[at]?.id ?? "";
  const apply = (event: Event) => {
    if (event.kind === "feed") {
      const source = project.sources.find(({ id }) => id === idOf(machine.sources, event.source));
      if (source?.origin.kind === "line") engine.hear(project.boards[0]?.id ?? "", source.origin.name, event.value);
      else engine.apply({ kind: "source", sourceId: source?.id ?? "", value: event.value });
    } else if (event.kind === "go")
      engine.apply({ kind: "target", jointId: idOf(machine.joints, event.joint), target: event.target });
    else if (event.kind === "play") engine.apply({ kind: "play", routineId: idOf(machine.routines, event.routine) });
    else if (event.kind === "pose")
      engine.apply({ kind: "goToPose", poseId: idOf(machine.poses, event.pose), moveMs: event.moveMs });
    else
      engine.apply(
        event.kind === "stop" ? { kind: "stop" } : { kind: event.kind === "hold" ? "holdAll" : "releaseAll" },
      );
  };
  const read = countsOf(engine, project, machine);
  return events.map((tick, at) => {
    for (const event of tick) apply(event);
    engine.tick(at * machine.frameMs);
    return read();
  });
}

/** What the bench itself sends, frame by frame: for each joint of the machine its count, or `noCount`. */
export function benchFrames(
  project: Project,
  takes: readonly TakeData[],
  machine: Machine,
  { kind, at }: Moved,
  frames: number,
): readonly (readonly number[])[] {
  // A change of hands goes over softly on the bench; code has only one hand.
  const joints = project.joints.map((joint) => ({ ...joint, control: { ...joint.control, blendMs: 0 } }));
  const engine = new Engine();
  for (const take of takes) engine.giveTake(take);
  engine.configure({ ...project, joints, leads: [] }, 1);
  engine.apply({ kind: "holdAll" });
  const done = engine.apply(
    kind === "routine"
      ? { kind: "play", routineId: machine.routines[at]?.id ?? "" }
      : { kind: "goToPose", poseId: machine.poses[at]?.id ?? "", moveMs: glideMs },
  );
  if (!done.ok) throw new Error(done.problem);
  const read = countsOf(engine, project, machine);
  return Array.from({ length: frames }, (_, tick) => {
    engine.tick(tick * machine.frameMs);
    return read();
  });
}

/** What the engine sends to each joint of the machine now. */
function countsOf(engine: Engine, project: Project, machine: Machine): () => readonly number[] {
  const slots = machine.joints.map(({ id }, at) => {
    const joint = project.joints.find((one) => one.id === id);
    const output = engine.outputs.find(({ boardId }) => boardId === joint?.boardId);
    // What a register cannot hold is not sent: a goal is kept within it.
    const goal = machine.families.find((family) => family.joints.includes(at))?.goal;
    const slot = output?.channels.indexOf(joint?.channel ?? -1) ?? -1;
    return { output, low: goal?.low ?? noCount, high: goal?.high ?? 2 ** 31, slot };
  });
  return () =>
    slots.map(({ output, slot, low, high }) => {
      const count = output?.counts[slot] ?? Number.NaN;
      return Number.isNaN(count) ? noCount : Math.min(Math.max(count, low), high);
    });
}
