import { between, type DeepReadonly, idSchema, labelSchema, positive } from "@core/schema";
import * as z from "zod/mini";

/** No supply of a bench gives more, in volts. */
const volts = between(0.5, 60);

export const chemistries = ["lithium", "lithiumIron", "nickel", "alkaline"] as const;

/** What a supply is, and what it gives. */
const givesSchema = z.discriminatedUnion("kind", [
  /** A mains adapter: beyond its limit it breaks down. */
  z.strictObject({ kind: z.literal("adapter"), volts }),
  /** A bench supply: at its limit it gives less voltage and not more current. */
  z.strictObject({ kind: z.literal("bench"), volts }),
  z.strictObject({
    kind: z.literal("battery"),
    chemistry: z.enum(chemistries),
    /** In series. */
    cells: z.int().check(z.gte(1), z.lte(20)),
    capacityMah: between(10, 1_000_000),
    /** Inner resistance of one cell. */
    cellMilliohm: between(0, 10_000),
  }),
  /** A computer's port: 5 V. */
  z.strictObject({ kind: z.literal("port") }),
  /** A pin of a board that gives voltage. */
  z.strictObject({ kind: z.literal("pin"), boardId: idSchema, volts }),
  /** Fed by a run like a consumer, and a supply to others. */
  z.strictObject({
    kind: z.literal("regulator"),
    works: z.enum(["linear", "switching"]),
    volts,
    /** How much more than it gives it needs to be given. */
    headroomVolts: between(0, 10),
    /** The share of what it is given that it gives on; of a linear one this follows from its voltages. */
    efficiency: between(0.3, 1),
  }),
]);

/** What feeds servos and boards, and the most it can give. */
export const supplySchema = z.strictObject({ id: idSchema, label: labelSchema, limitMa: positive, gives: givesSchema });

/** Where wires meet: a strip of terminals, the rails of a breadboard, the pins of a servo board. */
export const railSchema = z.strictObject({ id: idSchema, label: labelSchema });

export const connectorKinds = [
  "soldered",
  "screw",
  "servoPlug",
  "headerPin",
  "barrel",
  "blade",
  "breadboard",
  "heavy",
] as const;

/** A run of wire from one place to the next: supply and ground beside each other. `connector` is what its far end is plugged in with. */
export const runSchema = z.strictObject({
  id: idSchema,
  from: z.strictObject({ kind: z.enum(["supply", "rail"]), id: idSchema }),
  to: z.strictObject({ kind: z.enum(["rail", "supply", "board", "joint"]), id: idSchema }),
  lengthMm: between(0, 50_000),
  areaMm2: between(0.01, 50),
  connector: z.enum(connectorKinds),
  fuse: z.nullable(z.strictObject({ ratedMa: between(10, 100_000), blows: z.enum(["fast", "slow"]) })),
  hasSwitch: z.boolean(),
  /** Both conductors beside each other; or the supply alone, whose current then looks for another way back; or a ground alone, which feeds nothing. */
  carries: z.enum(["both", "supply", "ground"]),
});

/** A line of the switch-on check that somebody has ticked off, and when. */
export const tickedSchema = z.strictObject({ lineId: z.string().check(z.maxLength(100)), doneAt: z.iso.datetime() });

/** In which order three wires lie in a plug. */
export const plugOrders = ["groundSupplySignal", "supplyGroundSignal", "signalSupplyGround"] as const;

/** What has to be known of a board to wire it. */
export const boardPowerSchema = z.strictObject({
  /** The voltage of its signals. */
  logicVolts: between(1, 12),
  /** What it takes for itself. */
  drawMa: between(0, 10_000),
  /** Below this it starts anew. */
  lowestVolts: between(0, 12),
  header: z.enum(plugOrders),
  /** How long its bus is from end to end, and whether the end is closed by a resistor. */
  busMm: between(0, 100_000),
  hasBusEnd: z.boolean(),
});

/** What has to be known of a servo to wire it, beside its rating. */
export const cardPowerSchema = z.strictObject({
  plug: z.enum(plugOrders),
  /** From which voltage on its signal counts as high; null where the sheet does not say. */
  highVolts: z.nullable(between(0.5, 12)),
});

export type Supply = DeepReadonly<z.infer<typeof supplySchema>>;
export type Gives = Supply["gives"];
export type Battery = Extract<Gives, { kind: "battery" }>;
export type Chemistry = (typeof chemistries)[number];
export type Rail = DeepReadonly<z.infer<typeof railSchema>>;
export type Run = DeepReadonly<z.infer<typeof runSchema>>;
export type Fuse = NonNullable<Run["fuse"]>;
export type ConnectorKind = (typeof connectorKinds)[number];
export type PlugOrder = (typeof plugOrders)[number];
export type Ticked = DeepReadonly<z.infer<typeof tickedSchema>>;
export type BoardPower = DeepReadonly<z.infer<typeof boardPowerSchema>>;
export type CardPower = DeepReadonly<z.infer<typeof cardPowerSchema>>;

/** A board of which nobody has said anything: a small one that works at 5 V. */
export const usualBoardPower: BoardPower = {
  logicVolts: 5,
  drawMa: 60,
  lowestVolts: 4.2,
  header: "groundSupplySignal",
  busMm: 1000,
  hasBusEnd: true,
};

/** A servo of which nobody has said anything: the common order of wires, ground at the edge and the supply in the middle. */
export const usualCardPower: CardPower = { plug: "groundSupplySignal", highVolts: null };

/** From a rail to a servo: its own cable, as hobby servos have it. */
export const servoCable = {
  lengthMm: 300,
  areaMm2: 0.13,
  connector: "servoPlug",
  fuse: null,
  hasSwitch: false,
  carries: "both",
} as const satisfies Partial<Run>;

/** From a supply to a rail. */
export const usualCable = {
  ...servoCable,
  lengthMm: 500,
  areaMm2: 0.75,
  connector: "screw",
} as const satisfies Partial<Run>;
