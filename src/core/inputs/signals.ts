import type { DeviceOf, Range } from "@core/project";

/** A number between 0 and 1 that a place gives every time, however often it is asked: noise that can be replayed. */
function hashed(place: number, seed: number): number {
  let mixed = (Math.imul(place | 0, 0x9e3779b1) ^ Math.imul(seed | 0, 0x85ebca6b)) >>> 0;
  mixed = Math.imul(mixed ^ (mixed >>> 15), 0x2c1b3c6d) >>> 0;
  mixed = Math.imul(mixed ^ (mixed >>> 12), 0x297a2d39) >>> 0;
  return ((mixed ^ (mixed >>> 15)) >>> 0) / 0xffffffff;
}

const steps = 5;

/** Where a generator stands at a moment, in its source's units. Pure: the same moment gives the same value. */
export function waveAt(wave: DeviceOf<"wave">, range: Range, nowMs: number, seed: number): number {
  const turns = (nowMs / 1000) * wave.rateHz + wave.phaseDeg / 360;
  const part = turns - Math.floor(turns);
  const middle = (range.low + range.high) / 2;
  return middle + shapeAt(wave.shape, part, turns, seed) * wave.depth * ((range.high - range.low) / 2);
}

/** −1…1 over one turn. */
function shapeAt(shape: DeviceOf<"wave">["shape"], part: number, turns: number, seed: number): number {
  switch (shape) {
    case "sine":
      return Math.sin(2 * Math.PI * part);
    case "triangle":
      return part < 0.25 ? 4 * part : part < 0.75 ? 2 - 4 * part : 4 * part - 4;
    case "square":
      return part < 0.5 ? 1 : -1;
    case "steps":
      return (2 * Math.floor(part * steps)) / (steps - 1) - 1;
    case "noise": {
      // One new goal a turn, gone to softly: smooth, and never the same twice.
      const at = Math.floor(turns);
      const soft = part * part * (3 - 2 * part);
      return 2 * (hashed(at, seed) + soft * (hashed(at + 1, seed) - hashed(at, seed))) - 1;
    }
  }
}

/**
 * What a simulated sensor reads: `world` (0…1, moved by hand) seen through the sensor's own curve, its drift and its noise; whole numbers
 * of its converter, within its range.
 */
export function sensorAt(sensor: DeviceOf<"sensor">, range: Range, world: number, nowMs: number, seed: number): number {
  const drifted = senseOf(sensor.sense, world) + (sensor.driftPerMin * nowMs) / 60_000;
  const bell = hashed(nowMs, seed) + hashed(nowMs, seed + 1) + hashed(nowMs, seed + 2) - 1.5;
  const share = Math.min(Math.max(drifted + bell * sensor.noise, 0), 1);
  return Math.round(range.low + share * (range.high - range.low));
}

/** Sensors are seldom straight: light and distance crowd at one end, flex sags. */
function senseOf(sense: DeviceOf<"sensor">["sense"], world: number): number {
  switch (sense) {
    case "light":
      return Math.sqrt(world);
    case "temperature":
      return world;
    case "flex":
      return 0.15 + 0.7 * world * world;
    case "distance":
      return 0.08 / (0.08 + world);
  }
}
