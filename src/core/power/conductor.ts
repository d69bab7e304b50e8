/**
 * Copper wires. Lengths are in mm, cross-sections in mm².
 *
 * Sources: resistivity of annealed copper at 20 °C is 1/58 Ω·mm²/m, its temperature coefficient 0.00393 per °C (IEC 60028); gauge sizes by
 * d = 0.127 mm × 92^((36 − n)/39) (ASTM B258).
 */
const ohmMm2PerM = 1 / 58;
const perC = 0.00393;

/** Both conductors of a run, there and back, in Ω. */
export function pairOhm(lengthMm: number, areaMm2: number, atC = 20): number {
  return ((2 * lengthMm) / 1000) * (ohmMm2PerM / areaMm2) * (1 + perC * (atC - 20));
}

/** The cross-section of a gauge number, in mm². */
export function areaOfGauge(gauge: number): number {
  const diameterMm = 0.127 * 92 ** ((36 - gauge) / 39);
  return (Math.PI * diameterMm ** 2) / 4;
}

/** The nearest gauge number of a cross-section. */
export const gaugeOfArea = (areaMm2: number): number =>
  Math.round(36 - (39 * Math.log(Math.sqrt((4 * areaMm2) / Math.PI) / 0.127)) / Math.log(92));

/** What a reel is sold in, in mm². */
export const reelAreasMm2 = [0.08, 0.13, 0.2, 0.33, 0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10] as const;

/** Insulation of a hobby wire, on each side. */
const insulationMm = 0.4;
/** What still air takes off a wire that lies beside others, in W per m² and °C: half of what one alone in free air gives off. */
const airWPerM2C = 10;

/** How much warmer than the air a wire gets that carries a current for long, in °C: what it makes is what its surface gives off. */
export function warmerByC(amps: number, areaMm2: number): number {
  const diameterM = (2 * Math.sqrt(areaMm2 / Math.PI) + 2 * insulationMm) / 1000;
  const coldWPerM = (amps ** 2 * ohmMm2PerM) / areaMm2;
  const givesOff = airWPerM2C * Math.PI * diameterM;
  // Warm copper resists more, and so gets warmer still; beyond that there is no end to it.
  const left = givesOff - coldWPerM * perC * (airC - 20);
  const hold = givesOff - coldWPerM * perC;
  return hold <= 0 ? Number.POSITIVE_INFINITY : (coldWPerM * (left > 0 ? 1 + perC * (airC - 20) : 1)) / hold;
}

/** The air in a machine, in °C. */
const airC = 30;
/** A wire may get this much warmer than the air: beyond it the insulation of cheap wires suffers in the end. */
export const mayWarmByC = 30;

/** The current that warms a wire by as much as it may, in A. */
export function mayCarryA(areaMm2: number): number {
  let [low, high] = [0, 1000];
  for (let round = 0; round < 50; round += 1) {
    const middle = (low + high) / 2;
    if (warmerByC(middle, areaMm2) > mayWarmByC) high = middle;
    else low = middle;
  }
  return low;
}
