import type { Run, Supply } from "@core/project";
import { isRoot } from "./net";

/** A thing of the wiring. */
export interface Thing {
  readonly kind: "supply" | "rail" | "board" | "joint";
  readonly id: string;
}

/**
 * What somebody means who puts one thing on another: a servo, a board, a rail or a regulator on what is to feed it; or a supply, or a rail, on what it is to feed. Null where
 * neither makes sense.
 */
export function feedingBetween(
  put: Thing,
  onto: Thing,
  supplies: readonly Supply[],
): { readonly to: Run["to"]; readonly from: Run["from"] } | null {
  if (put.kind === onto.kind && put.id === onto.id) return null;
  const supply = put.kind === "supply" ? supplies.find(({ id }) => id === put.id) : undefined;
  const needsNone = supply !== undefined && (isRoot(supply) || supply.gives.kind === "pin");
  if (isSource(onto) && !needsNone) return { to: put, from: onto };
  if (isSource(put) && onto.kind !== "supply") return { to: onto, from: put };
  return null;
}

const isSource = (thing: Thing): thing is Thing & Run["from"] => thing.kind === "supply" || thing.kind === "rail";
