import { demoProject } from "@core/demo";
import type { Encoding } from "@core/encodings";
import { type Command, jointOf, shapeOf, snapshotLength } from "@core/engine";
import { tipLead } from "@core/inputs";
import {
  addCalibration,
  byId,
  type Edit,
  type Joint,
  type Project,
  removeLead,
  rewireJoint,
  type Source,
  setEncoding,
  setFrameHz,
  setSpeedLimit,
  setTravel,
  setWindow,
} from "@core/project";
import { jointMapOf } from "@core/rig";
import { signalMakerOf } from "@core/signal";
import { seededRandom } from "@core/sim";
import { Bench } from "@worker/bench";
import type { BusAsk } from "@worker/links/busMessages";
import type { SimulationAsk } from "@worker/simulation/simulationMessages";
import { PaperBoard } from "./paperBoard";
import { type Told, toldBy } from "./paperBus";

/** One thing that happens at the bench. All of it is data, so that a run can be told again, and cut down. */
export type Happening =
  | { readonly kind: "command"; readonly command: Command }
  | { readonly kind: "travel"; readonly jointId: string; readonly low: number; readonly high: number }
  | { readonly kind: "speed"; readonly jointId: string; readonly degPerS: number }
  | { readonly kind: "window"; readonly jointId: string; readonly low: number; readonly high: number }
  | { readonly kind: "noLimit"; readonly jointId: string }
  | { readonly kind: "frameHz"; readonly boardId: string; readonly hz: number }
  | { readonly kind: "encoding"; readonly boardId: string; readonly encoding: Encoding }
  | { readonly kind: "rewire"; readonly jointId: string; readonly channel: number }
  | { readonly kind: "calibrated"; readonly jointId: string; readonly points: readonly (readonly [number, number])[] }
  | { readonly kind: "removeLead"; readonly leadId: string }
  | { readonly kind: "undo" }
  | { readonly kind: "bus"; readonly boardId: string; readonly ask: BusAsk | SimulationAsk }
  | { readonly kind: "plug"; readonly boardId: string; readonly isPlugged: boolean }
  | { readonly kind: "run"; readonly ms: number }
  /** The host stands still, and then goes on. */
  | { readonly kind: "stall"; readonly ms: number }
  /** The clock that is handed in leaps back. */
  | { readonly kind: "back"; readonly ms: number };

export interface Escape {
  readonly at: number;
  readonly what: string;
}

const greenhouse = demoProject();
/** The greenhouse, with sources that lead the hand of its arm as well as what they led before. */
const demo: Project = {
  ...greenhouse,
  leads: [
    ...greenhouse.leads,
    ...(["x", "y", "z"] as const).map((along, at) =>
      tipLead(greenhouse, greenhouse.sources[at] as Source, "trellis-grip", along, `lead-hand-${along}`),
    ),
  ],
};
const { boards, joints } = demo;
const buses = boards.filter(({ encoding }) => encoding.kind === "bus");
const pulseBoards = boards.filter(({ encoding }) => encoding.kind !== "bus");
/** After a release what is on its way on a bus still goes out. */
const onItsWayMs = 60;

/** What happens at a bench in this many steps, by a seed. */
export function happenings(seed: number, count: number): Happening[] {
  const random = seededRandom(seed);
  const upTo = (most: number) => Math.floor(random() * most);
  const one = <T>(list: readonly T[]): T => list[upTo(list.length)] as T;
  const angle = () => Math.round((random() * 2 - 1) * 130);
  const odd = () => one([angle(), angle(), angle(), angle(), 1e9, -1e9, Number.NaN, Number.POSITIVE_INFINITY]);
  const jointId = () => one(joints).id;
  const command = (): Command => {
    const id = jointId();
    switch (upTo(20)) {
      case 0:
      case 1:
      case 2:
        return { kind: "hold", jointId: id };
      case 3:
        return { kind: one(["release", "holdOrRelease"] as const), jointId: id };
      case 4:
        return { kind: "holdAll" };
      case 5:
        return random() < 0.3 ? { kind: "releaseAll" } : { kind: "home", jointId: id };
      case 6:
      case 7:
      case 8:
        return { kind: "target", jointId: id, target: odd() };
      case 9:
        return { kind: "setPoint", jointId: id, setPoint: one([500, 1000, 1500, 2000, 2500, 9000, -1]) };
      case 10:
        return { kind: "jog", jointId: id, by: odd(), in: one(["target", "setPoint"] as const) };
      case 11:
        return { kind: "calibrate", jointId: id, isOn: random() < 0.6 };
      case 12:
        return { kind: "press", jointId: id, from: 1400, to: 1400 + upTo(900), backTo: 1380, settleMs: 60, forMs: 300 };
      case 13:
      case 14:
        return { kind: "source", sourceId: one(demo.sources).id, value: one([0, 200, 500, 1000, 1, 0]) };
      case 15:
        return { kind: "giveBack", jointId: id };
      case 16:
        return { kind: "goToPose", poseId: one(demo.poses).id, moveMs: 50 + upTo(900) };
      case 17:
        return { kind: "play", routineId: one(demo.routines).id, fromMs: upTo(4000) };
      case 18:
        return one<Command>([
          { kind: "pause" },
          { kind: "playOrPause", routineId: one(demo.routines).id, fromMs: upTo(4000) },
          { kind: "seek", atMs: upTo(9000) },
          { kind: "skip", by: 1 },
          { kind: "playSpeed", speed: 3 },
          { kind: "loop", range: { fromMs: upTo(2000), toMs: 2000 + upTo(2000) } },
        ]);
      default:
        return { kind: "stop" };
    }
  };
  const family = () => one(["kestrel", "heron"]);
  const id = () => one([0, 1, 2, 3, 4, 5, 20, 25, 240, 255]);
  const key = () => one(joints).cardId;
  /** Something that a person does with a bus, or that befalls it. */
  const busAsk = (): BusAsk | SimulationAsk => {
    const bytes = () =>
      Uint8Array.from({ length: 4 + upTo(12) }, () => one([0, 1, 3, 48, 50, 0x50, 0xb4, 0xd1, 0x2e, upTo(256)]));
    /** A put to whatever number, with a right check: what a careless hand sends. */
    const put = () => {
      const body = [
        0xb4,
        one([0x50, 0xd0, 0x53, 0x42]),
        id(),
        0,
        one([48, 49, 50, 51, 80, 90, 112]),
        upTo(256),
        upTo(256),
        upTo(4),
      ];
      body[3] = body.length - 4;
      return Uint8Array.from([...body, (256 - (body.reduce((sum, byte) => sum + byte, 0) % 256)) % 256]);
    };
    switch (upTo(14)) {
      case 0:
        return {
          kind: "run",
          runId: 1,
          run: {
            kind: "scan",
            layoutIds: ["kestrel", "heron"],
            lowestId: 0,
            highestId: 6,
            bitsPerS: one([[230_400], [230_400, 57_600]]),
          },
        };
      case 1:
        return {
          kind: "run",
          runId: 2,
          run: { kind: "changeSpeed", devices: [{ layoutId: family(), id: id() }], toBitsPerS: one([57_600, 230_400]) },
        };
      case 2:
      case 3:
        return { kind: "endRun" };
      case 4:
      case 5:
        return {
          kind: "run",
          runId: 3,
          run: {
            kind: "write",
            layoutId: family(),
            id: id(),
            address: one([48, 50, 80, 90, 112, 0x400, 0x402, 0x408, 0x300]),
            raw: one([0, 1, 5, 30, 3000]),
            throughTorque: random() < 0.5,
          },
        };
      case 6:
      case 7:
      case 8:
        return {
          kind: "run",
          runId: 4,
          run: { kind: "packet", layoutId: family(), bytes: random() < 0.7 ? put() : bytes() },
        };
      case 9:
        return { kind: "run", runId: 5, run: { kind: "readAll", layoutId: family(), id: id() } };
      case 10:
        return { kind: "plugDevice", key: key(), isPlugged: random() < 0.7 };
      case 11:
        if (random() < 0.4) {
          const share = one([0, 0, 0.002, 0.02]);
          return { kind: "faults", faults: { noise: share, lost: share, late: share, lateUs: 8000, driverOffUs: 20 } };
        }
        return random() < 0.5 ? { kind: "brownOut" } : { kind: "overload", key: key() };
      case 12:
        return { kind: "turnByHand", key: key(), byDeg: angle() / 4 };
      default:
        return { kind: "run", runId: 6, run: { kind: "renumber", layoutId: family(), from: id(), to: id() } };
    }
  };
  /** Every way in which a pulse board may make its signals, coarse ones among them. */
  const encoding = (): Encoding =>
    one<Encoding>([
      { kind: "percent", stepPercent: one([0.01, 0.1, 0.5]), rounding: "round" },
      { kind: "counts", bits: 8 + upTo(9), fullScale: one(["2^n", "2^n-1"]), rounding: one(["round", "truncate"]) },
      {
        kind: "pulseChip",
        oscillatorHz: 20e6,
        oscillatorErrorPercent: upTo(9) - 4,
        bits: 10 + upTo(6),
        rounding: "round",
      },
      {
        kind: "timer",
        clockHz: 20e6,
        prescale: one([8, 64]),
        counterBits: 16,
        alignment: "edge",
        output: one(["normal", "inverted"]),
      },
      { kind: "microseconds", tickUs: one([0.5, 1, 8, 64]) },
    ]);
  const happening = (): Happening => {
    if (random() < 0.05) return { kind: "bus", boardId: one(buses).id, ask: busAsk() };
    switch (upTo(24)) {
      case 0: {
        const low = angle();
        return { kind: "travel", jointId: jointId(), low, high: low + 5 + upTo(90) };
      }
      case 1:
        return random() < 0.7
          ? { kind: "speed", jointId: jointId(), degPerS: 5 + upTo(300) }
          : random() < 0.5
            ? { kind: "noLimit", jointId: jointId() }
            : { kind: "window", jointId: jointId(), low: 500 + upTo(900), high: 1500 + upTo(1000) };
      case 2:
        if (random() < 0.1) return { kind: "encoding", boardId: one(pulseBoards).id, encoding: encoding() };
        return random() < 0.3
          ? { kind: "frameHz", boardId: one(pulseBoards).id, hz: 40 + upTo(20) }
          : { kind: "rewire", jointId: jointId(), channel: upTo(8) };
      case 3:
        return {
          kind: "calibrated",
          jointId: jointId(),
          points: [
            [30 + upTo(30), 700 + upTo(300)],
            [110 + upTo(40), 1700 + upTo(500)],
          ],
        };
      case 4:
        return random() < 0.2 ? { kind: "removeLead", leadId: one(demo.leads).id } : { kind: "undo" };
      case 5:
        return { kind: "plug", boardId: one(boards).id, isPlugged: random() < 0.75 };
      case 6:
        return random() < 0.3 ? { kind: "stall", ms: 30 + upTo(1500) } : { kind: "run", ms: 400 };
      case 7:
        return random() < 0.2 ? { kind: "back", ms: 10 + upTo(4000) } : { kind: "run", ms: 900 };
      default:
        return random() < 0.4 ? { kind: "run", ms: 20 * (1 + upTo(8)) } : { kind: "command", command: command() };
    }
  };
  return Array.from({ length: count }, happening);
}

function editOf(happening: Happening, project: Project): Edit | null {
  switch (happening.kind) {
    case "travel":
      return setTravel(happening.jointId, happening.low, happening.high);
    case "speed":
      return setSpeedLimit(happening.jointId, happening.degPerS);
    case "noLimit":
      return setSpeedLimit(happening.jointId, null);
    case "window":
      return setWindow(byId(project.joints, happening.jointId).cardId, happening.low, happening.high);
    case "encoding":
      return setEncoding(happening.boardId, happening.encoding);
    case "frameHz":
      return setFrameHz(happening.boardId, 0, happening.hz);
    case "rewire":
      return rewireJoint(happening.jointId, byId(project.joints, happening.jointId).boardId, happening.channel);
    case "calibrated": {
      if (byId(project.cards, byId(project.joints, happening.jointId).cardId).kind === "smart") return null;
      const points = happening.points.map(([angleDeg, setPoint]) => ({ angleDeg, setPoint }));
      const made = {
        kind: "line",
        id: `m${points[0]?.setPoint}`,
        madeAt: "2026-11-25T10:00:00.000Z",
        note: "",
        points,
      };
      return addCalibration(byId(project.joints, happening.jointId).cardId, { ...made, kind: "line" });
    }
    case "removeLead":
      return removeLead(happening.leadId);
    default:
      return null;
  }
}

/**
 * Lets all of it happen at a bench with simulated boards, reads the bytes that leave with a decoder of its own, and tells where they left what was promised:
 * hard window, travel limits, speed limit, nothing to a released joint; for pulse boards and for servos on a bus.
 */
export function escapesOf(script: readonly Happening[]): Escape[] {
  const escapes: Escape[] = [];
  const bench = new Bench();
  let project = demo;
  let at = 0;
  let nowMs = 1000;
  const past: Project[] = [];
  const papers = new Map<string, { paper: PaperBoard; made: string }>();
  const plugged = new Map<string, boolean>();
  const wasOut = new Set<string>();
  const snapshot = () => {
    const numbers = new Float64Array(snapshotLength(shapeOf(project)));
    bench.write(numbers);
    return numbers;
  };
  const layOut = () => {
    for (const board of project.boards) {
      if (board.encoding.kind === "bus") continue;
      const made = JSON.stringify([board.encoding, board.frameHz]);
      if (papers.get(board.id)?.made === made) continue;
      const groups = Array.from({ length: board.channels }, (_, channel) => {
        const { lowestCount, highestCount } = signalMakerOf(board, channel);
        return { first: channel, last: channel, lowest: lowestCount, highest: highestCount };
      });
      papers.set(board.id, { paper: new PaperBoard({ hello: board.id, groups, silence: board.silence }), made });
    }
  };
  const judge = (boardId: string, before: ReadonlyMap<number, number>, after: ReadonlyMap<number, number>) => {
    const board = byId(project.boards, boardId);
    const numbers = snapshot();
    for (const [channel, register] of after) {
      const index = project.joints.findIndex((joint) => joint.boardId === boardId && joint.channel === channel);
      const joint = project.joints[index] as Joint | undefined;
      if (!joint) {
        escapes.push({ at, what: `${boardId} ${channel}: a signal for no joint` });
        continue;
      }
      const card = byId(project.cards, joint.cardId);
      const maker = signalMakerOf(board, channel);
      const map = jointMapOf(joint, card);
      const setPoint = maker.toSetPoint(register);
      const target = map.toTarget(setPoint);
      const complain = (what: string) => escapes.push({ at, what: `${joint.label}: ${what}` });
      const was = before.get(channel);
      const stoodAt = was === undefined ? Number.NaN : maker.toSetPoint(was);
      // A window that was drawn in around a joint brings it in from where it stands.
      const { low, high } = card.window;
      if (setPoint < low && !(setPoint >= stoodAt)) complain(`window: ${setPoint}`);
      if (setPoint > high && !(setPoint <= stoodAt)) complain(`window: ${setPoint}`);
      if (jointOf(numbers, index, "isHeld") === 0) complain("a signal to a released joint");
      const wasTarget = was === undefined ? Number.NaN : map.toTarget(maker.toSetPoint(was));
      const isIn = (angle: number) => angle >= map.lowTarget - 1e-4 && angle <= map.highTarget + 1e-4;
      // Where travel and window have nothing in common, the window wins.
      const isAway = stoodAt < low || stoodAt > high;
      if (!isAway && !isIn(target) && (Number.isNaN(wasTarget) || isIn(wasTarget)) && !measured.has(joint.id))
        complain(`travel: from ${wasTarget.toFixed(2)} to ${target.toFixed(2)}`);
      if (was === undefined) continue;
      const count = Math.abs(map.toTarget(setPoint + maker.step) - target);
      const calm = map.targetUnit === "°" ? 60 : 1;
      const fastest = isAway && !Number.isFinite(map.fastestPerS) ? calm : map.fastestPerS;
      const most = (fastest * maker.periodUs) / 1e6 + count + 1e-4;
      if (Math.abs(target - wasTarget) > most)
        complain(`speed: ${Math.abs(target - wasTarget).toFixed(2)} in one frame, ${most.toFixed(2)} at most`);
    }
  };
  /** Joints that are calibrated, or were a moment ago: their travel limits rest. */
  const measured = new Set<string>();
  /** Of each servo on a bus, by board and number: whether it holds, as far as the bytes have told, and its last goal. */
  const devices = new Map<string, { holds: boolean | null; goal: number }>();
  let tickedMs = nowMs;
  const freeSinceMs = new Map<string, number>();
  /** Buses on which answers get lost: a servo may be taken for silent and led on from where it stands, and a release for not heard. */
  const noisy = new Set<string>();
  const forgetBuses = () => devices.clear();
  const judgeTold = (boardId: string, told: Told) => {
    const index = project.joints.findIndex((joint) => joint.boardId === boardId && joint.channel === told.id);
    const joint = project.joints[index] as Joint | undefined;
    const place = `${boardId} ${told.id}`;
    const device = devices.get(place) ?? { holds: null, goal: Number.NaN };
    devices.set(place, device);
    const card = joint && byId(project.cards, joint.cardId);
    const isMine = card?.kind === "smart" && card.layoutId.endsWith(told.family);
    const isHeld = joint !== undefined && jointOf(snapshot(), index, "isHeld") === 1;
    const isFree = !isHeld && tickedMs - (freeSinceMs.get(joint?.id ?? "") ?? tickedMs) > onItsWayMs;
    const complain = (what: string) => escapes.push({ at, what: `${joint?.label}: ${what}` });
    if (told.what === "grip" && told.value === 0) Object.assign(device, { holds: false, goal: Number.NaN });
    if (!joint || !isMine) return;
    if (told.what === "grip" && told.value !== 0) {
      if (isFree) complain("told to hold, though it is released");
      device.holds = true;
    } else if (told.what === "goal") {
      const map = jointMapOf(joint, card);
      const target = map.toTarget(told.value);
      const was = device.holds === true ? device.goal : Number.NaN;
      device.goal = told.value;
      if (!Number.isFinite(told.value)) complain("half a goal");
      if (isFree && device.holds !== false) complain("a goal, though it is released");
      const { low, high } = card.window;
      // Where nobody knows its last goal, it may be coming in from outside a window that was drawn in.
      const isKnown = device.holds === true;
      if (
        isKnown &&
        ((told.value < low - 1 && !(told.value >= was)) || (told.value > high + 1 && !(told.value <= was)))
      )
        complain(`window: ${told.value}`);
      const most = map.fastestPerS * 0.02 + Math.abs(map.toTarget(told.value + 2) - target) + 0.05;
      const step = Math.abs(target - map.toTarget(was));
      if (step > most && !noisy.has(boardId))
        complain(`speed: ${step.toFixed(2)} from one goal to the next, ${most.toFixed(2)} at most`);
    } else if (device.holds === true && isHeld && told.what !== "grip")
      complain(`its ${told.what} is written while it is held`);
  };
  const someHeldOn = (boardId: string) =>
    [...devices].some(([place, { holds }]) => holds === true && place.startsWith(`${boardId} `));
  bench.onSent = (boardId, bytes) => {
    if (byId(project.boards, boardId).encoding.kind === "bus") {
      for (const told of toldBy(bytes))
        if (told.id !== null) judgeTold(boardId, told);
        // To all: only to let go.
        else if (told.what === "grip" && told.value === 0) forgetBuses();
        else if (someHeldOn(boardId)) escapes.push({ at, what: `${boardId}: ${told.what} for all` });
      return;
    }
    const known = papers.get(boardId);
    if (!known || plugged.get(boardId) === false) return;
    const { paper } = known;
    paper.hear(bytes, nowMs, (before) => judge(boardId, before, paper.outputs));
    // While a plug is out, limits may be lost; the board's refusal is how the host hears of it, and it tells them again.
    if (wasOut.has(boardId)) paper.limitRefusals = 0;
    if (paper.badLines + paper.limitRefusals > 0) {
      paper.limitRefusals = 0;
      escapes.push({ at, what: `${boardId}: a line that is none` });
      paper.badLines = 0;
    }
  };
  const tick = (ms: number) => {
    // What leaves during a tick may be from any moment since the last.
    tickedMs = nowMs;
    nowMs += ms;
    const numbers = snapshot();
    for (const [index, joint] of project.joints.entries())
      if (jointOf(numbers, index, "isHeld") === 1) freeSinceMs.delete(joint.id);
      else if (!freeSinceMs.has(joint.id)) freeSinceMs.set(joint.id, nowMs - ms);
    for (const { paper } of papers.values()) paper.pass(nowMs);
    bench.tick(nowMs);
  };
  const take = (changed: Project) => {
    if (JSON.stringify(project.joints.map(wireOf)) !== JSON.stringify(changed.joints.map(wireOf))) forgetBuses();
    project = changed;
    layOut();
    bench.configure(project, at);
  };
  take(demo);
  for (; at < script.length; at += 1) {
    const happening = script[at] as Happening;
    if (happening.kind === "command") {
      const { command } = happening;
      const asked = bench.command(command, nowMs);
      if (asked.ok && "jointId" in command) {
        const begins = command.kind === "press" || (command.kind === "calibrate" && command.isOn);
        const goesOn =
          command.kind === "setPoint" ||
          command.kind === "hold" ||
          (command.kind === "jog" && command.in === "setPoint");
        if (begins) measured.add(command.jointId);
        else if (!goesOn) measured.delete(command.jointId);
      }
    } else if (happening.kind === "bus") {
      const { boardId, ask } = happening;
      if (isForSimulation(ask)) bench.simulation.ask(boardId, ask, nowMs);
      else bench.askBus(boardId, ask);
      if (ask.kind === "faults") {
        if (ask.faults.lost > 0) noisy.add(happening.boardId);
        else noisy.delete(happening.boardId);
      }
      // From here on nobody who only reads what is sent knows which of them hold.
      if (unsettling.has(ask.kind)) forgetBuses();
    } else if (happening.kind === "plug") {
      forgetBuses();
      if (!happening.isPlugged) wasOut.add(happening.boardId);
      plugged.set(happening.boardId, happening.isPlugged);
      bench.simulation.ask(happening.boardId, { kind: "plug", isPlugged: happening.isPlugged }, nowMs);
    } else if (happening.kind === "run") for (let ms = 0; ms < happening.ms; ms += 20) tick(20);
    else if (happening.kind === "stall") {
      forgetBuses();
      tick(happening.ms);
    } else if (happening.kind === "back") {
      // Only the clock of the bench: the boards keep their own.
      bench.tick(nowMs - happening.ms);
    } else if (happening.kind === "undo") {
      const before = past.pop();
      if (before) take(before);
    } else {
      const changed = editOf(happening, project)?.apply(project);
      if (!changed?.ok) continue;
      past.push(project);
      take(changed.value);
    }
    if (escapes.length > 5) break;
  }
  return escapes;
}

const wireOf = ({ boardId, channel, cardId }: Joint) => [boardId, channel, cardId];
const forBus: ReadonlySet<string> = new Set<BusAsk["kind"]>(["watch", "run", "endRun", "watchRegisters"]);
const isForSimulation = (ask: BusAsk | SimulationAsk): ask is SimulationAsk => !forBus.has(ask.kind);
/** What may let a servo go, or hide one, without a byte from the host. */
const unsettling: ReadonlySet<(BusAsk | SimulationAsk)["kind"]> = new Set([
  "plugDevice",
  "brownOut",
  "overload",
  "heat",
  "run",
  "endRun",
  "faults",
]);

/** What kind of escape it is: what it is about, without its numbers. */
const kindOf = ({ what }: Escape) => what.replace(/-?\d+(\.\d+)?/g, "#");

/** The shortest script that a cut-down finds which still escapes in the same way: halves, quarters and so on are left out while it does. */
export function shrunk(script: readonly Happening[]): readonly Happening[] {
  const [first] = escapesOf(script);
  if (!first) return script;
  const escapesStill = (some: readonly Happening[]) => escapesOf(some).some((one) => kindOf(one) === kindOf(first));
  let shortest = script;
  for (let size = Math.ceil(script.length / 2); size >= 1; size = size === 1 ? 0 : Math.ceil(size / 2))
    for (let from = 0; from < shortest.length; ) {
      const without = [...shortest.slice(0, from), ...shortest.slice(from + size)];
      if (escapesStill(without)) shortest = without;
      else from += size;
    }
  return shortest;
}
