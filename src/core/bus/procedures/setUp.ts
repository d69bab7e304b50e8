import type { Layout, TroubleCause } from "@core/project";
import { rawIn, reachOf, registerFor, stretchOf } from "../registers/registers";
import { troublesIn } from "../registers/troubles";
import type { WireAnswer } from "../wire/wire";
import {
  type Ask,
  callOut,
  type Procedure,
  readBytes,
  readRegister,
  readRole,
  writeRegister,
  writeRole,
} from "./procedure";

/** How a change of the set-up went, in a sentence, and whether it holds. */
export interface SetUpOutcome {
  readonly isDone: boolean;
  readonly sentence: string;
}

const done = (sentence: string): SetUpOutcome => ({ isDone: true, sentence });
const failed = (sentence: string): SetUpOutcome => ({ isDone: false, sentence });

/** What is written to devices one after another, and how far it is. */
export interface StepsProgress {
  readonly done: number;
  readonly of: number;
  readonly at: string;
  /** Of a change of speed: who answers at the new speed by now, and who is being told. */
  readonly changed?: readonly number[];
  readonly telling?: number;
}

/**
 * Gives a device another id. Makes sure that just one answers as the old and nobody as the new, lets its torque go for the moment of writing, and believes
 * it only when it answers as the new one.
 */
export function* renumber(layout: Layout, from: number, to: number): Procedure<StepsProgress, SetUpOutcome> {
  if (to < 0 || to > layout.highestId || to === layout.broadcastId)
    return failed(`${layout.name} has ids up to ${layout.highestId}.`);
  if (from === to) return failed(`It is ${to} already.`);
  yield step(0, 4, `Calling ${from}`);
  const presence = yield* callOut<StepsProgress>(layout, from);
  if (presence === "nobody")
    return failed(`Nobody answers as ${from}. Is it plugged in, does it have its supply, and is the bus at its speed?`);
  if (presence === "clash")
    return failed(
      `Two or more answer as ${from}, and both would take the new id. Unplug all but one of them, and try again.`,
    );
  yield step(1, 4, `Calling ${to}`);
  if ((yield* callOut<StepsProgress>(layout, to)) !== "nobody")
    return failed(`Somebody answers as ${to} already. Choose another id.`);
  yield step(2, 4, "Writing the new id");
  yield* writeRole<StepsProgress>(layout, from, "torque", 0);
  yield* writeRole<StepsProgress>(layout, from, "id", to);
  yield step(3, 4, `Calling ${to}`);
  const after = yield* callOut<StepsProgress>(layout, to);
  if (after === "one") return done(`It is number ${to} now.`);
  return after === "clash"
    ? failed(`Two answer as ${to} now: there was more than one of number ${from}. Unplug one, and number it anew.`)
    : failed(`It did not take the new id: it still answers as ${from}, or not at all. Try again.`);
}

interface OnTheBus {
  readonly layout: Layout;
  readonly id: number;
}

/**
 * Lets these devices go, and makes sure that each has heard it, before something is done at which nobody would hear a release: while the wire runs at other
 * speeds, a servo that still has its torque holds on blindly. One that is silent now is left as it is.
 */
export function* letGoFirst<Progress, Outcome>(
  devices: readonly OnTheBus[],
  then: Procedure<Progress, Outcome>,
): Procedure<Progress, Outcome> {
  for (const { layout, id } of devices) yield* writeRole<Progress>(layout, id, "torque", 0);
  return yield* then;
}

/**
 * Brings all devices of a bus to another speed. All must answer before, at the old or, after a change that was ended in the middle, at the new one; one after the other is told, and called at the new speed. Should one be lost on
 * the way, those before it are brought back, so that the bus stays in one piece.
 */
export function* changeSpeed(
  devices: readonly OnTheBus[],
  fromBitsPerS: number,
  toBitsPerS: number,
): Procedure<StepsProgress, SetUpOutcome> {
  const of = devices.length * 2;
  const speed = `${toBitsPerS.toLocaleString("en")} bit/s`;
  for (const { layout } of devices)
    if (codeOf(layout, toBitsPerS) === null) return failed(`${layout.name} does not know ${speed}.`);
  const changed: OnTheBus[] = [];
  for (const [at, { layout, id }] of devices.entries()) {
    yield step(at, of, `Calling ${id}`);
    const presence = yield* callOut<StepsProgress>(layout, id, { bitsPerS: fromBitsPerS });
    // One that a change before this has brought there, which was ended in the middle.
    if (presence === "nobody" && (yield* callOut<StepsProgress>(layout, id, { bitsPerS: toBitsPerS })) === "one") {
      changed.push(devices[at] as OnTheBus);
      continue;
    }
    if (presence !== "one")
      return failed(
        presence === "clash"
          ? `Two answer as ${id}: number them first. Nothing was changed.`
          : `Number ${id} does not answer, and would be left behind at the old speed. Nothing was changed.`,
      );
  }
  const tellingStep = (telling: number): Ask<StepsProgress> => ({
    kind: "progress",
    progress: {
      done: devices.length + changed.length,
      of,
      at: `Telling ${telling}`,
      changed: changed.map(({ id }) => id),
      telling,
    },
  });
  for (const device of devices.filter((one) => !changed.includes(one))) {
    yield tellingStep(device.id);
    if (yield* tellSpeed(device, fromBitsPerS, toBitsPerS)) {
      changed.push(device);
      continue;
    }
    const lost: number[] = [];
    for (const one of [...changed, device]) {
      yield tellingStep(one.id);
      if (!(yield* tellSpeed(one, toBitsPerS, fromBitsPerS))) lost.push(one.id);
    }
    return failed(
      lost.length === 0
        ? `Number ${device.id} did not come along. All are at the old speed again.`
        : `Number ${device.id} did not come along, and ${lost.join(", ")} could not be brought back: scan all speeds to find out where they are.`,
    );
  }
  return done(`All ${devices.length} answer at ${speed}.`);
}

/** Where the devices of a change of speed are that was ended in the middle. */
export function whoIsWhere(
  devices: readonly { readonly id: number }[],
  { there, onTheWay }: { readonly there: readonly number[]; readonly onTheWay: number | null },
  fromBitsPerS: number,
  toBitsPerS: number,
): string {
  if (there.length === 0 && onTheWay === null) return "It was ended before anything was changed.";
  const speed = (bitsPerS: number) => `${bitsPerS.toLocaleString("en")} bit/s`;
  const left = devices.map(({ id }) => id).filter((id) => !there.includes(id) && id !== onTheWay);
  const parts = [
    there.length > 0 ? `${there.join(", ")} at ${speed(toBitsPerS)}` : "",
    onTheWay === null ? "" : `${onTheWay} at one or the other, or told and not yet heard`,
    left.length > 0 ? `${left.join(", ")} at ${speed(fromBitsPerS)}` : "",
  ].filter((part) => part !== "");
  return `It was ended in the middle. Now there are: ${parts.join("; ")}. Change the speed again to bring them together, or scan both speeds first.`;
}

/** Tells one device another speed, and calls it there. */
function* tellSpeed(
  { layout, id }: OnTheBus,
  fromBitsPerS: number,
  toBitsPerS: number,
): Generator<Ask<StepsProgress>, boolean, WireAnswer> {
  const code = codeOf(layout, toBitsPerS);
  if (code === null) return false;
  for (let goes = 0; goes < 3; goes += 1) {
    yield* writeRole<StepsProgress>(layout, id, "torque", 0, { bitsPerS: fromBitsPerS });
    yield* writeRole<StepsProgress>(layout, id, "bitRate", code, { bitsPerS: fromBitsPerS, tries: 1 });
    if ((yield* callOut<StepsProgress>(layout, id, { bitsPerS: toBitsPerS })) === "one") return true;
  }
  return false;
}

const codeOf = (layout: Layout, bitsPerS: number): number | null =>
  layout.bitRates.find((rate) => rate.bitsPerS === bitsPerS)?.value ?? null;

/** What a device says that does not take what was written; the other troubles are about how it is. */
const refusals: ReadonlySet<TroubleCause> = new Set(["range", "torque", "operation"]);

/** How a register was written. */
export interface WriteOutcome extends SetUpOutcome {
  /** What stands in it now; null where it could not be read back. */
  readonly raw: number | null;
}

/**
 * Writes one register and reads it back. With `throughTorque` its torque goes off before and, if it was on, on again after: its goal is set to where it
 * stands first, so that it does not jump.
 */
export function* writeValue(
  layout: Layout,
  id: number,
  address: number,
  raw: number,
  throughTorque: boolean,
): Procedure<StepsProgress, WriteOutcome> {
  const register = layout.registers.find((one) => one.address === address);
  if (!register) return { ...failed("There is no such register."), raw: null };
  const wasOn = throughTorque && (yield* readRole<StepsProgress>(layout, id, "torque")) === 1;
  if (wasOn) yield* writeRole<StepsProgress>(layout, id, "torque", 0);
  const error = yield* writeRegister<StepsProgress>(layout, id, address, raw);
  const nowId = register.role === "id" && error === 0 ? raw : id;
  const now = yield* readRegister<StepsProgress>(layout, nowId, register);
  if (wasOn) {
    const position = yield* readRole<StepsProgress>(layout, nowId, "position");
    const goal = registerFor(layout, "goalPosition");
    if (position !== null && goal) yield* writeRegister<StepsProgress>(layout, nowId, goal.address, position);
    yield* writeRole<StepsProgress>(layout, nowId, "torque", 1);
  }
  if (error === null) return { ...failed(`Number ${id} did not answer.`), raw: now };
  const refused = troublesIn(layout, error).filter(({ cause }) => cause !== null && refusals.has(cause));
  if (refused.length > 0 || now !== raw)
    return {
      ...failed(
        `${register.label} was not taken: ${refused.map(({ hint }) => hint).join(" ") || "it reads otherwise."}`,
      ),
      raw: now,
    };
  return { ...done(`${register.label} is written.`), raw: now };
}

/** All registers of a device, read in stretches; those that did not answer are missing. */
export function* readAll(layout: Layout, id: number): Procedure<StepsProgress, ReadonlyMap<number, number>> {
  const values = new Map<number, number>();
  const sorted = [...layout.registers].sort((a, b) => reachOf(a).address - reachOf(b).address);
  const stretches: (typeof sorted)[] = [];
  for (const register of sorted) {
    const last = stretches.at(-1);
    const so = last && stretchOf(last);
    const both = last && stretchOf([...last, register]);
    // What lies between is read along, up to two bytes of it.
    const isNear = so && reachOf(register).address - (so.address + so.count) <= 2;
    if (last && both && isNear && both.count <= 24) last.push(register);
    else stretches.push([register]);
  }
  for (const [at, stretch] of stretches.entries()) {
    yield step(at, stretches.length, `Reading ${id}`);
    const { address, count } = stretchOf(stretch);
    const bytes = yield* readBytes<StepsProgress>(layout, id, address, count);
    if (!bytes) continue;
    for (const register of stretch)
      values.set(register.address, rawIn(layout, register, bytes, register.address - address));
  }
  return values;
}

const step = (at: number, of: number, words: string): Ask<StepsProgress> => ({
  kind: "progress",
  progress: { done: at, of, at: words },
});
