import {
  atLeastZero,
  between,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  positive,
  rangeSchema,
  textUpTo,
  wholeBetween,
} from "@core/schema";
import * as z from "zod/mini";

/** What a source is, to a person. Whatever it is, it gives one number within its range; a stick is two sources that share an id. */
export const deviceSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("knob") }),
  /** Where its low end lies. */
  z.strictObject({ kind: z.literal("slider"), lowAt: z.enum(["bottom", "top", "left", "right"]) }),
  z.strictObject({ kind: z.literal("stick"), stickId: idSchema, axis: z.enum(["x", "y"]), springs: z.boolean() }),
  /** Counts on without an end; its range only says how much of it is drawn. */
  z.strictObject({ kind: z.literal("encoder"), detentsPerTurn: wholeBetween(4, 100) }),
  z.strictObject({ kind: z.literal("button") }),
  z.strictObject({ kind: z.literal("toggle") }),
  /** Gives the number of the key that was pressed last, 0 to 9. */
  z.strictObject({ kind: z.literal("keypad") }),
  /** A key of the keyboard, by its place (`KeyA`). */
  z.strictObject({ kind: z.literal("key"), code: textUpTo(30) }),
  z.strictObject({
    kind: z.literal("gamepad"),
    pad: wholeBetween(0, 3),
    part: z.enum(["axis", "button"]),
    index: wholeBetween(0, 31),
  }),
  z.strictObject({
    kind: z.literal("midi"),
    message: z.enum(["controller", "note"]),
    channel: wholeBetween(1, 16),
    number: wholeBetween(0, 127),
  }),
  /** A line `name=value` that arrives on any link. */
  z.strictObject({ kind: z.literal("line"), name: textUpTo(40) }),
  /** A simulated sensor: its noise and drift as shares of its range; the world behind it is moved by hand. */
  z.strictObject({
    kind: z.literal("sensor"),
    sense: z.enum(["light", "temperature", "flex", "distance"]),
    noise: between(0, 0.5),
    driftPerMin: between(-1, 1),
  }),
  z.strictObject({
    kind: z.literal("wave"),
    shape: z.enum(["sine", "triangle", "square", "steps", "noise"]),
    rateHz: positive.check(z.lte(20)),
    /** The share of its range that it uses. */
    depth: between(0, 1),
    phaseDeg: between(0, 360),
  }),
]);

/** Anything that gives a number. Its live value is not part of the document. */
export const sourceSchema = z.strictObject({
  id: idSchema,
  label: labelSchema,
  range: rangeSchema,
  device: deviceSchema,
  isMuted: z.boolean(),
  /** What becomes of what it leads to when it vanishes: it stays, or goes to where this value leads after a while. */
  ifLost: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("hold") }),
    z.strictObject({ kind: z.literal("value"), value: finite, afterMs: atLeastZero }),
  ]),
});

export type Source = DeepReadonly<z.infer<typeof sourceSchema>>;
export type Device = Source["device"];
export type DeviceKind = Device["kind"];
export type DeviceOf<Kind extends DeviceKind> = Extract<Device, { kind: Kind }>;

/** Sources that only know off and on. */
const switches: readonly DeviceKind[] = ["button", "toggle", "key"];

/** Whether a source says on or off, and no amount. */
export const isSwitch = ({ device }: Source): boolean =>
  switches.includes(device.kind) ||
  (device.kind === "gamepad" && device.part === "button") ||
  (device.kind === "midi" && device.message === "note");

/** Whether a source goes on giving numbers by itself. Its leads take a joint only where nobody has it, or by their rank. */
export const isSteady = ({ device }: Source): boolean =>
  device.kind === "wave" || device.kind === "sensor" || device.kind === "line";
