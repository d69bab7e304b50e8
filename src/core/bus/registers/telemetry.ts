import type { Alarms, Layout, RegisterRole } from "@core/project";
import { rawIn, registerFor, shownOf, stretchOf } from "./registers";

/** What a device last said of itself; NaN for what its family does not tell. */
export interface Telemetry {
  /** In ticks, over all turns. */
  position: number;
  loadPercent: number;
  currentMa: number;
  volts: number;
  temperatureC: number;
  /** The error byte of its last reply. */
  error: number;
  atUs: number;
}

export const noTelemetry = (): Telemetry => ({
  position: Number.NaN,
  loadPercent: Number.NaN,
  currentMa: Number.NaN,
  volts: Number.NaN,
  temperatureC: Number.NaN,
  error: 0,
  atUs: Number.NaN,
});

const sensed: readonly RegisterRole[] = ["position", "load", "current", "voltage", "temperature"];

/** The stretch of registers that tells how a device is, read at one go. */
export function sensedStretch(layout: Layout): { readonly address: number; readonly count: number } | null {
  const registers = sensed.flatMap((role) => registerFor(layout, role) ?? []);
  return registers.length > 0 ? stretchOf(registers) : null;
}

/** Writes what a read of that stretch says. */
export function takeSensed(layout: Layout, address: number, bytes: Uint8Array, into: Telemetry): void {
  const shown = (role: RegisterRole, isRaw = false): number => {
    const register = registerFor(layout, role);
    if (!register) return Number.NaN;
    const raw = rawIn(layout, register, bytes, register.address - address);
    return isRaw ? raw : shownOf(register, raw);
  };
  into.position = shown("position", true);
  into.loadPercent = shown("load");
  into.currentMa = shown("current");
  into.volts = shown("voltage");
  into.temperatureC = shown("temperature");
}

/** What is beyond its limit, in words; empty where all is well. */
export function alarmsOf(alarms: Alarms, { temperatureC, volts, loadPercent }: Telemetry): string[] {
  const words: string[] = [];
  if (alarms.highestC !== null && temperatureC > alarms.highestC)
    words.push(`${temperatureC.toFixed(0)} °C, more than ${alarms.highestC} °C`);
  if (alarms.lowestV !== null && volts < alarms.lowestV)
    words.push(`${volts.toFixed(1)} V, less than ${alarms.lowestV} V`);
  if (alarms.highestV !== null && volts > alarms.highestV)
    words.push(`${volts.toFixed(1)} V, more than ${alarms.highestV} V`);
  if (alarms.highestLoad !== null && Math.abs(loadPercent) > alarms.highestLoad)
    words.push(`a load of ${Math.abs(loadPercent).toFixed(0)} %, more than ${alarms.highestLoad} %`);
  return words;
}
