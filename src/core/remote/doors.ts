import {
  between,
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  listUpTo,
  textUpTo,
  wholeBetween,
} from "@core/schema";
import * as z from "zod/mini";

const portSchema = wholeBetween(1, 65_535);

/** By which doors messages of other machines come in. Each computer says so for itself; none of it is part of a project. */
export const doorSettingsSchema = z.strictObject({
  mqtt: z.strictObject({
    /** Through a broker of one's own, through the one within, or not at all. */
    via: z.enum(["off", "inside", "broker"]),
    address: textUpTo(200).check(z.regex(/^(mqtts?|wss?):\/\/[^\s/@]+(\/\S*)?$/)),
    name: textUpTo(100),
    word: textUpTo(200),
    version: z.union([z.literal(4), z.literal(5)]),
    /** Of the broker within. */
    port: portSchema,
    /** Others of the local network reach the broker within, while they are let in, with this word. */
    isOut: z.boolean(),
    insideWord: textUpTo(60),
  }),
  osc: z.strictObject({
    isOn: z.boolean(),
    port: portSchema,
    isOut: z.boolean(),
    /** Where states are said, as `host:port`; empty for nowhere. */
    to: textUpTo(120).check(z.regex(/^([^\s:/]+:\d{1,5})?$/)),
  }),
  sacn: z.strictObject({
    isOn: z.boolean(),
    isOut: z.boolean(),
    /** Listened to besides those that sources of the project name. */
    universe: wholeBetween(1, 63_999),
  }),
});
export type DoorSettings = DeepReadonly<z.infer<typeof doorSettingsSchema>>;

/** Until somebody wants them, all are shut. */
export const shutDoors: DoorSettings = {
  mqtt: {
    via: "off",
    address: "mqtt://127.0.0.1:1883",
    name: "",
    word: "",
    version: 5,
    port: 1883,
    isOut: false,
    insideWord: "",
  },
  osc: { isOn: false, port: 9000, isOut: false, to: "" },
  sacn: { isOn: false, isOut: false, universe: 1 },
};

const doorStateSchema = z.strictObject({
  state: z.enum(["off", "opening", "open", "lost"]),
  /** Where it is, or why it is not open. */
  sentence: textUpTo(300),
});
export type DoorState = DeepReadonly<z.infer<typeof doorStateSchema>>;

export const doorsStandingSchema = z.strictObject({
  mqtt: doorStateSchema,
  broker: doorStateSchema,
  osc: doorStateSchema,
  sacn: doorStateSchema,
  /** What was heard last, by key, the newest first: what is moved can be chosen. */
  heard: listUpTo(z.strictObject({ key: textUpTo(200), value: finite, who: textUpTo(80), atMs: finite }), 24),
  /** What was let through, and what was not, so far. */
  taken: finite,
  refused: finite,
});
export type DoorsStanding = DeepReadonly<z.infer<typeof doorsStandingSchema>>;

const namedSchema = z.strictObject({ id: idSchema, name: labelSchema });

/** What the bench listens to, and what others may ask of it. */
export const wantsSchema = z.strictObject({
  root: textUpTo(60),
  /** What its sources wait for. */
  keys: listUpTo(textUpTo(200), 200),
  mayStop: z.boolean(),
  poses: listUpTo(namedSchema, 2000),
  routines: listUpTo(namedSchema, 500),
});
export type Wants = DeepReadonly<z.infer<typeof wantsSchema>>;

/** What others ask the bench to do, once it was looked at whether they may. */
export const actSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("release") }),
  z.strictObject({ kind: z.literal("stop") }),
  z.strictObject({ kind: z.literal("pose"), poseId: idSchema, moveMs: between(0, 600_000) }),
  z.strictObject({ kind: z.literal("play"), routineId: idSchema }),
]);
export type Act = DeepReadonly<z.infer<typeof actSchema>>;

/** One thing that the bench says of itself: under a path, some numbers by name; null for what nobody can tell. */
export const saidSchema = z.strictObject({
  path: textUpTo(120),
  values: z.record(textUpTo(20), z.nullable(z.union([finite, z.string().check(z.maxLength(80)), z.boolean()]))),
});
export type Said = DeepReadonly<z.infer<typeof saidSchema>>;

/** How the simulated handset is held: its parts as shares, and how far away it is. */
export const handsetSchema = z.strictObject({
  isOn: z.boolean(),
  across: between(0, 1),
  up: between(0, 1),
  first: z.boolean(),
  second: z.boolean(),
  distanceM: between(0, 100),
});
export type Handset = DeepReadonly<z.infer<typeof handsetSchema>>;
