import type { Layout } from "@core/project";
import { registerFor } from "../registers/registers";
import type { WireAnswer } from "../wire/wire";
import { type Ask, callOut, type Procedure, readRole } from "./procedure";

/** Somebody on the bus. */
export interface Found {
  readonly layoutId: string;
  readonly id: number;
  readonly bitsPerS: number;
  /** Two or more answer as this id. */
  readonly isClash: boolean;
  readonly model: number | null;
  readonly firmware: number | null;
}

export interface ScanPlan {
  readonly layouts: readonly Layout[];
  readonly lowestId: number;
  readonly highestId: number;
  /** Speeds to try, in bit/s. */
  readonly bitsPerS: readonly number[];
}

export interface ScanProgress {
  readonly done: number;
  readonly of: number;
  /** Where it is at, in words. */
  readonly at: string;
  readonly found: readonly Found[];
}

/** Whoever was heard too late is called again, so often at most. */
const mostRounds = 5;

/**
 * Calls every id of every family at every speed, and looks closer at whoever answers. Where somebody did, those that kept silent are called once more: a reply that a busy
 * computer handed on too late is nobody's fault. Whoever was heard, but too late, is there, and is called until it is heard in time.
 */
export function* scan(plan: ScanPlan): Procedure<ScanProgress, readonly Found[]> {
  const found: Found[] = [];
  const calls = plan.layouts.flatMap((layout) =>
    plan.bitsPerS.map((bitsPerS) => ({ layout, bitsPerS, highestId: Math.min(plan.highestId, layout.highestId) })),
  );
  const of = calls.reduce((sum, call) => sum + Math.max(0, call.highestId - plan.lowestId + 1), 0);
  let done = 0;
  for (const { layout, bitsPerS, highestId } of calls) {
    let silent: number[] = [];
    const late = new Set<number>();
    const before = found.length;
    const where = `${layout.name}, ${bitsPerS.toLocaleString("en")} bit/s`;
    for (let id = plan.lowestId; id <= highestId; id += 1) {
      yield { kind: "progress", progress: { done, of, at: `${where}, id ${id}`, found } };
      const one = yield* heeding(meet<ScanProgress>(layout, id, bitsPerS), late);
      if (one) found.push(one);
      else silent.push(id);
      done += 1;
    }
    for (let round = 1; round < mostRounds; round += 1) {
      const isWorthAll = round === 1 && found.length > before;
      const again = silent.filter((id) => isWorthAll || late.has(id));
      silent = [];
      for (const id of again) {
        yield { kind: "progress", progress: { done, of, at: `${where}, id ${id} once more`, found } };
        const one = yield* heeding(meet<ScanProgress>(layout, id, bitsPerS), late);
        if (one) found.push(one);
        else silent.push(id);
      }
    }
  }
  yield { kind: "progress", progress: { done, of, at: "", found } };
  return found;
}

/** Goes through with it, and writes down who was heard too late meanwhile. */
function* heeding<Progress, Outcome>(
  procedure: Generator<Ask<Progress>, Outcome, WireAnswer>,
  late: Set<number>,
): Generator<Ask<Progress>, Outcome, WireAnswer> {
  let step = procedure.next();
  while (!step.done) {
    const answer = yield step.value;
    for (const id of answer.late) late.add(id);
    step = procedure.next(answer);
  }
  return step.value;
}

/** Finds out who answers as an id, if anybody does. */
export function* meet<Progress>(
  layout: Layout,
  id: number,
  bitsPerS: number | null,
): Generator<Ask<Progress>, Found | null, WireAnswer> {
  const presence = yield* callOut<Progress>(layout, id, { bitsPerS });
  if (presence === "nobody") return null;
  const isClash = presence === "clash";
  const how = { bitsPerS, tries: 2 };
  const model = isClash ? null : yield* readRole<Progress>(layout, id, "model", how);
  const firmware = isClash ? null : yield* readRole<Progress>(layout, id, "firmware", how);
  return { layoutId: layout.id, id, bitsPerS: bitsPerS ?? 0, isClash, model, firmware };
}

/** Whether a model number is the one that the family's manual gives. */
export const isOwnModel = (layout: Layout, model: number | null): boolean =>
  model === null || registerFor(layout, "model")?.default === model;
