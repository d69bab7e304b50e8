import type { Lead, Pad, Source } from "@core/project";

const usual = { isMuted: false, ifLost: { kind: "hold" } } as const;
const thousand = { low: 0, high: 1000 };

/** What stands on the greenhouse's bench: a knob, a stick, a switch, an encoder, sensors, and a line that Pebble sends. */
export const demoSources: readonly Source[] = [
  { id: "bench-knob", label: "Bench knob", range: thousand, origin: { kind: "knob" }, ...usual },
  {
    id: "stick-x",
    label: "Stick, across",
    range: thousand,
    origin: { kind: "stick", stickId: "stick", axis: "x", springs: true },
    ...usual,
  },
  {
    id: "stick-y",
    label: "Stick, up",
    range: thousand,
    origin: { kind: "stick", stickId: "stick", axis: "y", springs: true },
    ...usual,
  },
  {
    id: "lid-slider",
    label: "Lid slider",
    range: { low: 0, high: 255 },
    origin: { kind: "slider", lowAt: "bottom" },
    ...usual,
  },
  { id: "vent-way", label: "Vent way", range: { low: 0, high: 1 }, origin: { kind: "toggle" }, ...usual },
  { id: "call-button", label: "Call button", range: { low: 0, high: 1 }, origin: { kind: "button" }, ...usual },
  {
    id: "dusk",
    label: "Dusk sensor",
    range: thousand,
    origin: { kind: "sensor", sense: "light", noise: 0.02, driftPerMin: 0 },
    ...usual,
  },
  {
    id: "breath",
    label: "Breath",
    range: { low: 0, high: 100 },
    origin: { kind: "wave", shape: "sine", rateHz: 0.25, depth: 0.4, phaseDeg: 0 },
    ...usual,
    isMuted: true,
  },
  {
    id: "vane",
    label: "Vane on Pebble",
    range: { low: 0, high: 359 },
    origin: { kind: "line", name: "vane", boardId: "pebble" },
    ...usual,
    ifLost: { kind: "value", value: 180, afterMs: 3000 },
  },
];

export const demoLeads: readonly Lead[] = [
  {
    id: "lead-knob-turn",
    sourceId: "bench-knob",
    target: { kind: "joint", jointId: "neck-turn" },
    shapers: [{ kind: "rangeMap", from: thousand, to: { low: -70, high: 70 } }],
    isMuted: false,
  },
  {
    id: "lead-stick-nod",
    sourceId: "stick-y",
    target: { kind: "joint", jointId: "neck-nod" },
    shapers: [
      { kind: "deadband", centre: 511.5, halfWidth: 24, reach: 511.5 },
      { kind: "curve", range: thousand, shape: { kind: "expo", amount: 0.4 } },
      { kind: "rangeMap", from: thousand, to: { low: -28, high: 32 } },
      { kind: "smooth", lagMs: 120, quickness: 8, span: 60 },
    ],
    isMuted: false,
  },
  {
    id: "lead-breath-tuft",
    sourceId: "breath",
    target: { kind: "joint", jointId: "ear-tuft" },
    shapers: [{ kind: "rangeMap", from: { low: 0, high: 100 }, to: { low: -20, high: 30 } }],
    isMuted: false,
  },
  {
    id: "lead-call",
    sourceId: "call-button",
    target: { kind: "action", action: { kind: "goToPose", poseId: "pose-call", moveMs: 600 } },
    shapers: [{ kind: "press", which: "short", longMs: 600 }],
    isMuted: false,
  },
];

const small = { wide: 2, high: 1 };
const pose = (poseId: string, moveMs: number): Pad["controls"][number] => ({
  kind: "pose",
  id: `pad-${poseId}`,
  label: "",
  span: small,
  poseId,
  moveMs,
});

/** The owl's pad: its neck under two sliders, its usual looks, and its routine. */
export const demoPads: readonly Pad[] = [
  {
    id: "pad-tawny",
    label: "Tawny",
    controls: [
      {
        kind: "slider",
        id: "pad-turn",
        label: "Turn",
        span: { wide: 4, high: 2 },
        isHeldToMove: false,
        sourceId: "bench-knob",
        lowAt: "left",
      },
      {
        kind: "slider",
        id: "pad-nod",
        label: "Nod",
        span: { wide: 2, high: 3 },
        isHeldToMove: true,
        sourceId: "stick-y",
        lowAt: "bottom",
      },
      pose("pose-watch", 800),
      pose("pose-look-left", 900),
      pose("pose-blink", 150),
      { kind: "routine", id: "pad-owl", label: "", span: small, routineId: "routine-owl-wakes" },
      { kind: "stop", id: "pad-stop", label: "", span: small },
    ],
  },
];
