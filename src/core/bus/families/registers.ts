import type { Layout, Register } from "@core/project";

/** A register of one byte that is read and forgotten, but for what is said otherwise. */
export const register = (address: number, label: string, told: Partial<Register> & { meaning: string }): Register => ({
  address,
  label,
  size: 1,
  sign: "none",
  access: "read",
  memory: "volatile",
  needsTorqueOff: false,
  low: 0,
  high: told.size === 2 ? 65_535 : 255,
  unit: "",
  scale: 1,
  offset: 0,
  default: 0,
  choices: [],
  role: null,
  ...told,
});

/** The bus speeds that both families know, by what stands in the register. */
export const bitRates: Layout["bitRates"] = [19_200, 57_600, 115_200, 250_000, 500_000, 1_000_000].map(
  (bitsPerS, value) => ({ value, bitsPerS }),
);

export const bitRateChoices: Register["choices"] = bitRates.map(({ value, bitsPerS }) => ({
  value,
  label: `${bitsPerS.toLocaleString("en").replaceAll(",", " ")} bit/s`,
}));

export const usualErrorBits: Layout["errorBits"] = [
  {
    bit: 0,
    label: "voltage",
    letsGo: false,
    hint: "The supply is too low or too high: look at its plug, its fuse and what else hangs on it.",
  },
  {
    bit: 1,
    label: "range",
    letsGo: false,
    hint: "What was written is out of range, or the register is not there, or cannot be written.",
  },
  { bit: 2, label: "torque", letsGo: false, hint: "This can be written only with the torque off." },
  { bit: 3, label: "operation", letsGo: false, hint: "It does not know this operation, or not with so many bytes." },
  {
    bit: 4,
    label: "temperature",
    letsGo: true,
    hint: "It is too hot and has let go. Let it cool; find what it pushes against.",
  },
  {
    bit: 5,
    label: "overload",
    letsGo: true,
    hint: "It pushed too hard for too long and has let go. Take the load off, then switch its torque on again.",
  },
];
