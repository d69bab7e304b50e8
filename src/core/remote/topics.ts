import { afarKeys } from "@core/origins";
import { type DeepReadonly, finite, textUpTo, wholeBetween } from "@core/schema";
import * as z from "zod/mini";

/** The topics of a bench under its root, and of its cues beside it; written down for others in `docs/messages.md`. */
export const topicsOf = (root: string) => ({
  in: `${root}/in/#`,
  do: `${root}/do/#`,
  here: `${root}/here/#`,
  out: `${root}/out`,
  cue: `${cueRootOf(root)}/#`,
});

/** Benches of one show share their cues: they lie beside the benches, one level up. */
export const cueRootOf = (root: string): string => `${root.split("/").slice(0, -1).join("/") || root}/cue`;

/** More than anything that this bench listens to needs. */
export const payloadBytesAtMost = 1024;

const stamped = {
  seq: z.optional(wholeBetween(0, 2 ** 48)),
  at: z.optional(finite),
  from: z.optional(textUpTo(60)),
};
const valueSchema = z.object({ value: z.union([finite, z.boolean()]), ...stamped });
const poseSchema = z.object({
  pose: textUpTo(80),
  ms: z.optional(z.number().check(z.gte(0), z.lte(600_000))),
  ...stamped,
});
const playSchema = z.object({ routine: textUpTo(80), ...stamped });
const plainSchema = z.object({ ...stamped });

/** What a message asks for, before anybody has looked whether it may. */
export type Heard = DeepReadonly<
  | { kind: "value"; key: string; value: number }
  | { kind: "cue"; name: string }
  | { kind: "release" }
  | { kind: "stop" }
  | { kind: "pose"; name: string; moveMs: number | null }
  | { kind: "play"; name: string }
  /** A sender is there, or, by its last will, is not any more. */
  | { kind: "here"; from: string; isHere: boolean }
>;

/** A message that this bench understands, and who sent it when, as far as it says. */
export interface ReadMessage {
  readonly heard: Heard;
  readonly from: string | null;
  readonly seq: number | null;
  readonly atMs: number | null;
}

/** Reads a message of this bench's topics; null for any other, and for a payload that is not what its topic takes. */
export function readMessage(root: string, topic: string, payload: string): ReadMessage | null {
  const cues = `${cueRootOf(root)}/`;
  if (topic.startsWith(cues)) {
    const name = topic.slice(cues.length);
    return name === "" || name.includes("/") ? null : readWith(plainSchema, payload, () => ({ kind: "cue", name }));
  }
  if (!topic.startsWith(`${root}/`)) return null;
  const [door = "", ...rest] = topic.slice(root.length + 1).split("/");
  const name = rest.join("/");
  if (name === "") return null;
  if (door === "in") return readValue(name, payload);
  if (door === "here") {
    const isHere = { "1": true, true: true, "0": false, false: false }[payload.trim()];
    return isHere === undefined ? null : bare({ kind: "here", from: name, isHere });
  }
  if (door !== "do") return null;
  switch (name) {
    case "release":
    case "stop":
      return readWith(plainSchema, payload, () => ({ kind: name }));
    case "pose":
      return readNamed(
        poseSchema,
        payload,
        ({ pose, ms }) => ({ kind: "pose", name: pose, moveMs: ms ?? null }),
        "pose",
      );
    case "play":
      return readNamed(playSchema, payload, ({ routine }) => ({ kind: "play", name: routine }), "routine");
    default:
      return null;
  }
}

const bare = (heard: Heard): ReadMessage => ({ heard, from: null, seq: null, atMs: null });

const words: Readonly<Record<string, number>> = { on: 1, off: 0, true: 1, false: 0 };

/** A bare number, a word for on or off, or JSON. */
function readValue(name: string, payload: string): ReadMessage | null {
  const key = afarKeys.mqtt(name);
  const text = payload.trim();
  const word = words[text.toLowerCase()];
  const number = word ?? (/^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d{1,3})?$/i.test(text) ? Number(text) : Number.NaN);
  if (Number.isFinite(number)) return bare({ kind: "value", key, value: number });
  return readWith(valueSchema, text, ({ value }) => ({ kind: "value", key, value: Number(value) }));
}

/** JSON, or the bare name of what is meant. */
function readNamed<Schema extends z.ZodMiniType<Stamped>>(
  schema: Schema,
  payload: string,
  toHeard: (read: z.infer<Schema>) => Heard,
  field: string,
): ReadMessage | null {
  const text = payload.trim();
  if (text === "") return null;
  return readWith(schema, text.startsWith("{") ? text : JSON.stringify({ [field]: text }), toHeard);
}

interface Stamped {
  readonly seq?: number | undefined;
  readonly at?: number | undefined;
  readonly from?: string | undefined;
}

function readWith<Schema extends z.ZodMiniType<Stamped>>(
  schema: Schema,
  payload: string,
  toHeard: (read: z.infer<Schema>) => Heard,
): ReadMessage | null {
  const read = schema.safeParse(jsonIn(payload));
  if (!read.success) return null;
  const { seq, at, from } = read.data;
  return { heard: toHeard(read.data), from: from ?? null, seq: seq ?? null, atMs: at ?? null };
}

/** What a payload says as JSON; for what is not, whatever was sent says no more than that it was. */
function jsonIn(payload: string): unknown {
  try {
    const read: unknown = JSON.parse(payload);
    return typeof read === "object" && read !== null ? read : {};
  } catch {
    return {};
  }
}

/** A label as one level of a topic: letters, digits and hyphens. */
export function levelOf(label: string): string {
  const level = label
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "");
  return level || "x";
}
