import type { Layout, Register } from "@core/project";

type Told = Partial<Register> & { readonly meaning: string };

/** A register of one byte that is read and forgotten, but for what is said otherwise. */
export const register = (address: number, label: string, told: Told): Register => ({
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

/** One that makes a servo what it is: written, and kept without supply. */
export const kept = (address: number, label: string, told: Told): Register =>
  register(address, label, { access: "write", memory: "stored", ...told });

/** The names of a family's speeds, for the register that chooses one. */
export const bitRateChoices = (bitRates: Layout["bitRates"]): Register["choices"] =>
  bitRates.map(({ value, bitsPerS }) => ({
    value,
    label: `${bitsPerS.toLocaleString("en").replaceAll(",", " ")} bit/s`,
  }));

export const onOff = (off: string, on: string): Register["choices"] => [
  { value: 0, label: off },
  { value: 1, label: on },
];
