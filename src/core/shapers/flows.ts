import { ok, problem, type Result } from "@core/result";
import type { Range } from "@core/schema";
import type { Flow, OtherSource } from "./shaperKind";

/** An amount between two ends, whichever of them is the lower. */
export const amount = (a: number, b: number): Flow => ({ kind: "amount", low: Math.min(a, b), high: Math.max(a, b) });

export const aSwitch: Flow = { kind: "switch" };

/** What runs at a place as an amount: a switch counts as 0…1 wherever an amount is wanted. */
export const amountIn = (flow: Flow): Range => (flow.kind === "switch" ? { low: 0, high: 1 } : flow);

/** For shapers that say when something happens: only what switches off and on can. */
export const onlySwitch = (name: string, flow: Flow): Result<Flow> =>
  flow.kind === "switch"
    ? ok(flow)
    : problem(`${name} needs something that switches off and on: put a threshold before it.`);

export const isSwitchAmong = (others: readonly OtherSource[], id: string): boolean =>
  others.some((other) => other.id === id && other.isSwitch);
