import type { Device, DeviceKind, Source } from "@core/project";

const thousand = { low: 0, high: 1000 };
const offOn = { low: 0, high: 1 };

/** What a source of each kind begins with; a stick is two of them. Ids are the caller's. */
export function newSources(kind: DeviceKind, label: string, newId: () => string): readonly Source[] {
  const source = (device: Device, range = thousand, name = label): Source => ({
    id: newId(),
    label: name,
    range,
    device,
    isMuted: false,
    ifLost: { kind: "hold" },
  });
  switch (kind) {
    case "stick": {
      const stickId = newId();
      return [
        source({ kind, stickId, axis: "x", springs: true }, thousand, `${label}, across`),
        source({ kind, stickId, axis: "y", springs: true }, thousand, `${label}, up`),
      ];
    }
    case "slider":
      return [source({ kind, lowAt: "bottom" })];
    case "encoder":
      return [source({ kind, detentsPerTurn: 24 }, { low: -48, high: 48 })];
    case "button":
    case "toggle":
      return [source({ kind }, offOn)];
    case "keypad":
      return [source({ kind }, { low: 0, high: 9 })];
    case "key":
      return [source({ kind, code: "" }, offOn)];
    case "gamepad":
      return [source({ kind, pad: 0, part: "axis", index: 0 })];
    case "midi":
      return [source({ kind, message: "controller", channel: 1, number: 1 }, { low: 0, high: 127 })];
    case "line":
      return [source({ kind, name: "value" })];
    case "sensor":
      return [source({ kind, sense: "light", noise: 0.02, driftPerMin: 0 })];
    case "wave":
      return [source({ kind, shape: "sine", rateHz: 0.5, depth: 0.5, phaseDeg: 0 }, { low: 0, high: 100 })];
    case "knob":
      return [source({ kind })];
  }
}

/** The ranges that converters have. */
export const converterRanges = [8, 10, 12, 16].map((bits) => ({ bits, low: 0, high: 2 ** bits - 1 }));
