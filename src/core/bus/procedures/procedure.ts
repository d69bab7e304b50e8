import type { Layout, Register } from "@core/project";
import { rawIn, reachOf, registerFor } from "../registers/registers";
import { pingRequest, readRequest, writeRequest } from "../registers/requests";
import type { WireAnswer } from "../wire/wire";

/** One step of a procedure: something to be sent, a pause, or word of how far it is. */
export type Ask<Progress> =
  | {
      readonly kind: "send";
      readonly layout: Layout;
      readonly bytes: Uint8Array;
      readonly from: readonly number[];
      readonly replyBytes: number | null;
      readonly listensOut: boolean;
      readonly tries: number;
      /** At which speed; null for that of the bus. */
      readonly bitsPerS: number | null;
    }
  | { readonly kind: "wait"; readonly us: number }
  | { readonly kind: "progress"; readonly progress: Progress };

/**
 * Something that takes many exchanges: it asks, is handed what came back, and asks again. It knows nothing of time or of the wire, so that it can be tried on a
 * simulated one, and be ended between any two steps.
 */
export type Procedure<Progress, Outcome> = Generator<Ask<Progress>, Outcome, WireAnswer>;

export const silence: WireAnswer = { replies: [], noise: [], late: [], hadBadCheck: false, sentUs: 0, times: 0 };

interface How {
  readonly listensOut?: boolean;
  readonly tries?: number;
  readonly bitsPerS?: number | null;
}

/** Whether somebody answers as this id: nobody, one, or more than one. */
export type Presence = "nobody" | "one" | "clash";

export function presenceIn({ replies, noise, hadBadCheck }: WireAnswer): Presence {
  if (replies.length > 1 || hadBadCheck || noise.length > 0) return "clash";
  return replies.length === 1 ? "one" : "nobody";
}

/** Calls an id, and listens until all that may answer have. Twice, for one garbled answer may be mere noise, and one alone a lucky overlay. */
export function* callOut<Progress>(
  layout: Layout,
  id: number,
  { bitsPerS = null }: How = {},
): Generator<Ask<Progress>, Presence, WireAnswer> {
  const bytes = pingRequest(layout, id);
  if (!bytes) return "nobody";
  const ping = {
    kind: "send",
    layout,
    bytes,
    from: [id],
    replyBytes: null,
    listensOut: true,
    tries: 1,
    bitsPerS,
  } as const;
  const first = presenceIn(yield ping);
  const second = presenceIn(yield ping);
  if (first === second) return first;
  // They disagree: a third call decides, and a clash needs two votes, or it is noise.
  const third = presenceIn(yield ping);
  const votes = [first, second, third];
  return (["clash", "one", "nobody"] as const).find((one) => votes.filter((vote) => vote === one).length >= 2) ?? "one";
}

/** Reads bytes of a device; null where it keeps silent or refuses. */
export function* readBytes<Progress>(
  layout: Layout,
  id: number,
  address: number,
  count: number,
  { tries = 3, bitsPerS = null }: How = {},
): Generator<Ask<Progress>, Uint8Array | null, WireAnswer> {
  const bytes = readRequest(layout, id, address, count);
  if (!bytes) return null;
  const answer = yield {
    kind: "send",
    layout,
    bytes,
    from: [id],
    replyBytes: count,
    listensOut: false,
    tries,
    bitsPerS,
  };
  const reply = answer.replies[0]?.packet;
  return reply && reply.parameters.length === count ? reply.parameters : null;
}

/** Reads one register; null for no answer. */
export function* readRegister<Progress>(
  layout: Layout,
  id: number,
  register: Register,
  how: How = {},
): Generator<Ask<Progress>, number | null, WireAnswer> {
  const reach = reachOf(register);
  const bytes = yield* readBytes<Progress>(layout, id, reach.address, reach.size, how);
  return bytes && rawIn(layout, register, bytes, register.address - reach.address);
}

/** Reads one register by its role; null where there is none, or no answer. */
export function* readRole<Progress>(
  layout: Layout,
  id: number,
  role: Parameters<typeof registerFor>[1],
  how: How = {},
): Generator<Ask<Progress>, number | null, WireAnswer> {
  const register = registerFor(layout, role);
  if (!register) return null;
  return yield* readRegister<Progress>(layout, id, register, how);
}

/** Writes one register. Gives the error byte of the answer, or null for silence. */
export function* writeRegister<Progress>(
  layout: Layout,
  id: number,
  address: number,
  raw: number,
  { tries = 3, bitsPerS = null }: How = {},
): Generator<Ask<Progress>, number | null, WireAnswer> {
  const register = layout.registers.find((one) => one.address === address);
  const request = register && writeRequest(layout, id, register, raw);
  if (!request) return null;
  const answer = yield { kind: "send", layout, ...request, replyBytes: null, listensOut: false, tries, bitsPerS };
  return request.from.length > 0 ? (answer.replies[0]?.packet.error ?? null) : 0;
}

/** Writes one register by its role. */
export function* writeRole<Progress>(
  layout: Layout,
  id: number,
  role: Parameters<typeof registerFor>[1],
  raw: number,
  how: How = {},
): Generator<Ask<Progress>, number | null, WireAnswer> {
  const register = registerFor(layout, role);
  return register ? yield* writeRegister<Progress>(layout, id, register.address, raw, how) : null;
}
