import type { Layout, Mode, Register, RegisterRole } from "@core/project";
import { heron, kestrel } from "../families";
import { readWhole } from "../packets/bytes";
import { rawBytes, rawOf, reachOf, registerFor } from "../registers/registers";

/**
 * The two families that every bench knows, as they counted up to version 4 of the project: just what it takes to bring over what was kept in their numbers.
 * Nothing else may use it.
 */

/** From the old ticks to the new: where a tick went, and how many new ones an old one is worth. */
export interface TickMap {
  readonly toTick: (old: number) => number;
  readonly perTick: number;
}

interface OldRegister {
  readonly role: RegisterRole;
  readonly label: string;
  readonly address: number;
  readonly size: 1 | 2 | 4;
  /** What one of it was worth, in the unit of today's register; of ticks, speeds and modes nothing. */
  readonly scale: number;
}

export interface EarlierFamily {
  readonly layout: Layout;
  readonly ticks: TickMap;
  readonly registers: readonly OldRegister[];
  /** The kinds of its modes, by their old values. */
  readonly modes: Readonly<Record<number, Mode["kind"]>>;
}

const oldBitRates = [19_200, 57_600, 115_200, 230_400, 500_000, 1_000_000];

const mapOf = (layout: Layout, zero: number, degPerOldTick: number): TickMap => {
  const perTick = degPerOldTick / (registerFor(layout, "position")?.scale ?? 1);
  return { perTick, toTick: (old) => (old - zero) * perTick };
};

const at = (role: RegisterRole, label: string, address: number, size: 1 | 2 | 4 = 1, scale = 1): OldRegister => ({
  role,
  label,
  address,
  size,
  scale,
});

const families: Readonly<Record<string, EarlierFamily>> = {
  kestrel: {
    layout: kestrel,
    // Its middle stays its middle.
    ticks: mapOf(kestrel, 2 ** 9, 300 / 2 ** 10),
    registers: [
      at("id", "Id", 3),
      at("bitRate", "Bus speed", 4),
      at("replyDelay", "Reply delay", 5, 1, 4),
      at("mode", "Mode", 6),
      at("lowestPosition", "Lowest position", 7, 2),
      at("highestPosition", "Highest position", 9, 2),
      at("highestTemperature", "Highest temperature", 11),
      at("lowestVoltage", "Lowest voltage", 12, 1, 0.1),
      at("highestVoltage", "Highest voltage", 13, 1, 0.1),
    ],
    modes: { 0: "position", 1: "velocity" },
  },
  heron: {
    layout: heron,
    ticks: mapOf(heron, 0, 360 / 2 ** 12),
    registers: [
      at("id", "Id", 4),
      at("bitRate", "Bus speed", 5),
      at("replyDelay", "Reply delay", 6, 1, 2),
      at("mode", "Mode", 7),
      at("lowestPosition", "Lowest position", 8, 4),
      at("highestPosition", "Highest position", 12, 4),
      at("highestTemperature", "Highest temperature", 16),
      at("lowestVoltage", "Lowest voltage", 18, 2, 0.01),
      at("highestVoltage", "Highest voltage", 20, 2, 0.01),
    ],
    modes: { 1: "position", 2: "multiTurn", 3: "velocity" },
  },
};

/** What a family of this id was before; null for one of a person's own. */
export const earlierFamily = (id: unknown): EarlierFamily | null =>
  (typeof id === "string" && Object.hasOwn(families, id) && families[id]) || null;

/** A number of an old register in today's register of its role, kept within its range; null where it has none. */
function brought(family: EarlierFamily, old: OldRegister, raw: number): { register: Register; raw: number } | null {
  const register = registerFor(family.layout, old.role);
  if (!register) return null;
  const within = (value: number) => Math.max(register.low, Math.min(register.high, value));
  switch (old.role) {
    case "bitRate": {
      const rate = family.layout.bitRates.find(({ bitsPerS }) => bitsPerS === oldBitRates[raw]);
      return { register, raw: rate?.value ?? register.default };
    }
    case "mode": {
      const mode = family.layout.modes.find(({ kind }) => kind === family.modes[raw]);
      return { register, raw: mode?.value ?? register.default };
    }
    case "lowestPosition":
      // The end that nobody had moved is the end of the travel still.
      return { register, raw: raw === 0 ? register.low : within(Math.ceil(family.ticks.toTick(raw))) };
    case "highestPosition": {
      const wasEnd = raw === 2 ** (family.layout === kestrel ? 10 : 12) - 1;
      return { register, raw: wasEnd ? register.high : within(Math.floor(family.ticks.toTick(raw))) };
    }
    default:
      return { register, raw: within(rawOf(register, raw * old.scale)) };
  }
}

/** What a device kept without supply, by address; of a family of a person's own it is handed on as it is. */
export function storedOfVersion4(layoutId: string, stored: Readonly<Record<number, number>>): Record<number, number> {
  const family = earlierFamily(layoutId);
  if (!family) return { ...stored };
  const { byteOrder } = family.layout;
  const now: Record<number, number> = {};
  for (const old of family.registers) {
    const bytes = Array.from({ length: old.size }, (_, byte) => stored[old.address + byte]);
    if (bytes.some((byte) => byte === undefined)) continue;
    const one = brought(family, old, readWhole(bytes as number[], 0, old.size, byteOrder));
    if (!one) continue;
    const { address } = reachOf(one.register);
    for (const [offset, byte] of rawBytes(family.layout, one.register, one.raw).entries()) now[address + offset] = byte;
  }
  return now;
}

/** The settings of a device, by the labels of its registers then and now. */
export function settingsOfVersion1(layoutId: string, values: Readonly<Record<string, number>>): Record<string, number> {
  const family = earlierFamily(layoutId);
  if (!family) return { ...values };
  const now: Record<string, number> = {};
  for (const [label, raw] of Object.entries(values)) {
    const old = family.registers.find((one) => one.label === label);
    const one = old && brought(family, old, raw);
    // What is not known is handed on, to be refused by its name.
    if (one) now[one.register.label] = one.raw;
    else now[label] = raw;
  }
  return now;
}

/** What each bit meant to the simulated devices, whatever a person called it. */
const oldCauses = ["voltage", "range", "torque", "operation", "temperature", "overload"] as const;

/** A family of a person's own as version 4 told of it. Gets unchecked data, and hands on what it cannot make sense of, to be refused. */
export function layoutOfVersion4(layout: Record<string, unknown>): Record<string, unknown> {
  const { errorBits, ...kept } = layout;
  if (!Array.isArray(errorBits)) return layout;
  const operations = Array.isArray(kept.operations)
    ? kept.operations.map((one) => ({ ...(one as object), answers: "always" }))
    : kept.operations;
  const list = errorBits.map((one: Record<string, unknown>) => {
    const { bit, ...trouble } = one ?? {};
    return { ...trouble, value: bit, cause: oldCauses[bit as number] ?? null };
  });
  return { ...kept, operations, askBit: null, errors: { kind: "bits", list } };
}
