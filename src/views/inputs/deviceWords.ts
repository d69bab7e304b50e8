import type { Device, DeviceKind } from "@core/project";

/** What each kind of source is called when one is added. */
export const deviceNames: Readonly<Record<DeviceKind, string>> = {
  knob: "Knob",
  slider: "Slider",
  stick: "Stick, two axes",
  encoder: "Encoder",
  button: "Push button",
  toggle: "Toggle switch",
  keypad: "Keypad",
  key: "Key of the keyboard",
  gamepad: "Gamepad",
  midi: "MIDI controller",
  line: "Line on a link",
  sensor: "Simulated sensor",
  wave: "Generator",
};

/** Where a source's numbers come from, in a few words. */
export function deviceWords(device: Device): string {
  switch (device.kind) {
    case "key":
      return device.code ? `key ${device.code.replace(/^Key|^Digit/, "")}` : "no key yet";
    case "gamepad":
      return `pad ${device.pad + 1}, ${device.part} ${device.index}`;
    case "midi":
      return `${device.message} ${device.number}, channel ${device.channel}`;
    case "line":
      return `“${device.name}=…” on a link`;
    case "sensor":
      return `simulated ${device.sense}`;
    case "wave":
      return `${device.shape}, ${device.rateHz} Hz`;
    case "encoder":
      return `encoder, ${device.detentsPerTurn} a turn`;
    case "stick":
      return device.axis === "x" ? "stick, across" : "stick, up";
    default:
      return deviceNames[device.kind].toLowerCase();
  }
}
