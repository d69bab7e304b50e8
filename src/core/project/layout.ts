import {
  type DeepReadonly,
  finite,
  idSchema,
  labelSchema,
  listUpTo,
  positive,
  textUpTo,
  wholeBetween,
} from "@core/schema";
import * as z from "zod/mini";

const byteSchema = wholeBetween(0, 255);
const bytesUpTo = (length: number) => z.array(byteSchema).check(z.maxLength(length));

/** The parts that a packet is made of, whatever their order. All but the header, the parameters and the check are one byte, the length one or two. */
export const fieldSchema = z.enum(["header", "id", "length", "operation", "error", "parameters", "check"]);
const fieldsSchema = z.array(fieldSchema).check(
  z.maxLength(7),
  z.refine((fields) => new Set(fields).size === fields.length, { error: "each field stands once" }),
);

const byteOrderSchema = z.enum(["low first", "high first"]);

/** How the check value is made. A CRC is told by its parameters, as catalogues print them. */
export const checkRuleSchema = z.discriminatedUnion("kind", [
  /** All bytes added up, or each xored with the last; the low 8 bits, as they are, complemented, or negated. */
  z.strictObject({ kind: z.literal("sum"), ending: z.enum(["plain", "complement", "negate"]) }),
  z.strictObject({ kind: z.literal("xor"), ending: z.enum(["plain", "complement", "negate"]) }),
  z.strictObject({
    kind: z.literal("crc"),
    bits: z.union([z.literal(8), z.literal(16), z.literal(32)]),
    /** Without its highest bit, as catalogues print it: 0x1021, not 0x11021. */
    polynomial: wholeBetween(1, 0xffff_ffff),
    start: wholeBetween(0, 0xffff_ffff),
    /** Whether the bits of every byte are taken lowest first, and those of the result turned round. */
    reflectsIn: z.boolean(),
    reflectsOut: z.boolean(),
    finalXor: wholeBetween(0, 0xffff_ffff),
  }),
]);

/** What keeps the header from turning up within a packet. */
const stuffingSchema = z.discriminatedUnion("kind", [
  /** After the header, each of these bytes is sent as `escape` and itself xor a mask. Length and check know nothing of it. */
  z.strictObject({
    kind: z.literal("escape"),
    escape: byteSchema,
    xor: wholeBetween(1, 255),
    marks: bytesUpTo(8),
  }),
  /** In the parameters, after this run of bytes one more is put in. Length and check count it. */
  z.strictObject({
    kind: z.literal("insert"),
    after: bytesUpTo(8).check(z.minLength(1)),
    insert: byteSchema,
  }),
]);

const sizeSchema = z.union([z.literal(1), z.literal(2), z.literal(4)]);

/** What an operation carries, in order. */
const pieceSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("address"), size: z.union([z.literal(1), z.literal(2)]) }),
  z.strictObject({ kind: z.literal("count"), size: z.union([z.literal(1), z.literal(2)]) }),
  z.strictObject({ kind: z.literal("constant"), bytes: bytesUpTo(16) }),
  /** Values of registers; all that is left. */
  z.strictObject({ kind: z.literal("data") }),
  /** For each device its id, with `data` also what is written there; all that is left. */
  z.strictObject({ kind: z.literal("each"), withData: z.boolean() }),
]);

export const operationKindSchema = z.enum([
  "ping",
  "read",
  "write",
  "groupWrite",
  "groupRead",
  "restart",
  "factoryReset",
  "other",
]);

const operationSchema = z.strictObject({
  code: byteSchema,
  label: labelSchema,
  kind: operationKindSchema,
  request: listUpTo(pieceSchema, 8),
  /** Null: a device does not answer it. */
  reply: z.nullable(listUpTo(pieceSchema, 8)),
  /** Whether it is answered always, or only when the request asks for it (see `askBit`). */
  answers: z.enum(["always", "when asked"]),
});

/** What a device complains of, as far as Vantel must understand it. */
export const troubleCauseSchema = z.enum(["voltage", "range", "torque", "operation", "temperature", "overload"]);

const troubleSchema = z.strictObject({
  /** The bit, counted from 0, or the code. */
  value: byteSchema,
  label: labelSchema,
  hint: textUpTo(200),
  /** It lets go by itself when it says so. */
  letsGo: z.boolean(),
  /** Null where it is something else than these. */
  cause: z.nullable(troubleCauseSchema),
});

/** What the error byte of a reply means: each bit a trouble of its own, so that it can tell of several, or one code at a time. 0 is no trouble. */
const errorsSchema = z.strictObject({ kind: z.enum(["bits", "codes"]), list: listUpTo(troubleSchema, 64) }).check(
  z.refine(({ kind, list }) => list.every(({ value }) => (kind === "bits" ? value <= 7 : value > 0)), {
    error: "bits go from 0 to 7, codes from 1 to 255",
  }),
);

export const registerRoleSchema = z.enum([
  "model",
  "firmware",
  "id",
  "bitRate",
  "replyDelay",
  "mode",
  "lowestPosition",
  "highestPosition",
  "highestTemperature",
  "lowestVoltage",
  "highestVoltage",
  "torque",
  "goalPosition",
  "goalVelocity",
  "position",
  "velocity",
  "load",
  "current",
  "voltage",
  "temperature",
  "isMoving",
  "trouble",
]);

const registerSchema = z
  .strictObject({
    address: wholeBetween(0, 65_535),
    label: labelSchema,
    size: sizeSchema,
    /**
     * How a negative value is written: never, as two's complement, with this bit as its sign, or by a byte of its own: at that address, and
     * `back` stands there when the value is negative.
     */
    sign: z.union([
      z.enum(["none", "twos"]),
      wholeBetween(1, 31),
      z.strictObject({ address: wholeBetween(0, 65_535), back: wholeBetween(1, 255) }),
    ]),
    access: z.enum(["read", "write"]),
    /** Stored is kept without supply; volatile is forgotten. */
    memory: z.enum(["stored", "volatile"]),
    needsTorqueOff: z.boolean(),
    low: finite,
    high: finite,
    /** `shown = raw × scale + offset`, in this unit; a plain number has none. */
    unit: textUpTo(20),
    scale: finite.check(z.refine((scale) => scale !== 0, { error: "must not be zero" })),
    offset: finite,
    default: finite,
    meaning: textUpTo(400),
    /** The values that have names. */
    choices: listUpTo(z.strictObject({ value: finite, label: labelSchema }), 64),
    /** What Vantel may use it for. */
    role: z.nullable(registerRoleSchema),
  })
  .check(
    z.refine(({ low, high }) => low <= high, { error: "the low end must not be above the high end" }),
    z.refine(({ sign, address, size, access }) => isNear(sign, address, size, access === "write" ? 0 : 32), {
      error:
        "the byte of its direction stands right before it or right behind it (of one that is only read, within 32 bytes)",
    }),
  );

/** Value and direction are read, or written, in one go: so many bytes may lie between. */
function isNear(sign: unknown, address: number, size: number, most: number): boolean {
  if (typeof sign !== "object" || sign === null || !("address" in sign) || typeof sign.address !== "number")
    return true;
  const between = sign.address < address ? address - sign.address - 1 : sign.address - address - size;
  return between >= 0 && between <= most;
}

const modeSchema = z.strictObject({
  value: finite,
  label: labelSchema,
  kind: z.enum(["position", "multiTurn", "velocity"]),
  /** What a position beyond the ends of one turn becomes. */
  atEnd: z.enum(["clamp", "wrap"]),
});

/** The families that every bench knows (`core/bus/families`): no project holds them. */
export const reservedLayoutIds: readonly string[] = ["kestrel", "heron"];

/** How the messages of a family of smart servos are built, and what their registers mean. */
export const layoutSchema = z
  .strictObject({
    id: idSchema,
    name: labelSchema,
    notes: textUpTo(4000),
    header: bytesUpTo(8).check(z.minLength(1)),
    /** What a device sends first; null where it is the same. */
    replyHeader: z.nullable(bytesUpTo(8).check(z.minLength(1))),
    requestFields: fieldsSchema,
    replyFields: fieldsSchema,
    /** What stands in the operation field of a reply; null where the request's own is repeated. */
    replyCode: z.nullable(byteSchema),
    /** This bit in the operation of a request asks for an answer, of operations that are answered only when asked; null where there are none. */
    askBit: z.nullable(wholeBetween(0, 7)),
    byteOrder: byteOrderSchema,
    length: z.strictObject({
      size: z.union([z.literal(1), z.literal(2)]),
      /** The length is the bytes of these fields, and so many more. */
      counts: fieldsSchema,
      plus: wholeBetween(-16, 16),
    }),
    check: z.strictObject({ rule: checkRuleSchema, covers: fieldsSchema, byteOrder: byteOrderSchema }),
    stuffing: z.nullable(stuffingSchema),
    broadcastId: z.nullable(byteSchema),
    highestId: wholeBetween(1, 254),
    defaultId: wholeBetween(0, 254),
    bitRates: z
      .array(z.strictObject({ value: finite, bitsPerS: positive.check(z.lte(20_000_000)) }))
      .check(z.minLength(1), z.maxLength(32)),
    defaultBitsPerS: positive,
    /** Start, data, parity and stop bits of one byte on the wire. */
    bitsPerByte: wholeBetween(9, 12),
    operations: listUpTo(operationSchema, 64),
    errors: errorsSchema,
    registers: listUpTo(registerSchema, 300),
    modes: listUpTo(modeSchema, 8),
  })
  .check(
    z.refine((layout) => isWellOrdered(layout.requestFields), {
      error: "a request begins with its header, has a length before its parameters, and a check",
      path: ["requestFields"],
    }),
    z.refine((layout) => isWellOrdered(layout.replyFields), {
      error: "a reply begins with its header, has a length before its parameters, and a check",
      path: ["replyFields"],
    }),
    z.refine((layout) => layout.length.counts.includes("parameters"), {
      error: "the length counts the parameters, or a packet has no end",
      path: ["length", "counts"],
    }),
    z.refine((layout) => !layout.check.covers.includes("check"), {
      error: "the check cannot cover itself",
      path: ["check", "covers"],
    }),
    z.refine(({ askBit, operations }) => operations.every(({ answers }) => answers === "always" || askBit !== null), {
      error: "an operation is answered when asked, but no bit asks for it",
      path: ["operations"],
    }),
    z.refine(({ askBit, operations }) => askBit === null || operations.every(({ code }) => !((code >> askBit) & 1)), {
      error: "the bit that asks for an answer is part of an operation's code",
      path: ["askBit"],
    }),
    z.refine((layout) => layout.check.rule.kind !== "crc" || fitsIn(layout.check.rule), {
      error: "polynomial, start and final xor must fit into the bits of the CRC",
      path: ["check", "rule"],
    }),
  );

function isWellOrdered(fields: readonly Field[]): boolean {
  const at = (field: Field) => fields.indexOf(field);
  return at("header") === 0 && at("length") > 0 && at("parameters") > at("length") && at("check") > 0;
}

const fitsIn = (rule: { bits: number; polynomial: number; start: number; finalXor: number }): boolean =>
  [rule.polynomial, rule.start, rule.finalXor].every((value) => value < 2 ** rule.bits);

export type Layout = DeepReadonly<z.infer<typeof layoutSchema>>;
export type Field = z.infer<typeof fieldSchema>;
export type CheckRule = DeepReadonly<z.infer<typeof checkRuleSchema>>;
export type CrcRule = Extract<CheckRule, { kind: "crc" }>;
export type Stuffing = NonNullable<Layout["stuffing"]>;
export type Operation = Layout["operations"][number];
export type OperationKind = Operation["kind"];
export type Piece = Operation["request"][number];
export type TroubleCause = z.infer<typeof troubleCauseSchema>;
export type Trouble = Layout["errors"]["list"][number];
export type Register = Layout["registers"][number];
export type RegisterRole = z.infer<typeof registerRoleSchema>;
export type Mode = Layout["modes"][number];
export type ByteOrder = Layout["byteOrder"];
