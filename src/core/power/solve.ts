import { isRoot, type Net, type Place, sourceOf } from "./net";

/** What is drawn at each place: servos in proportion to the voltage that reaches them (siemens), boards a current of their own (A). */
export interface Loads {
  readonly siemens: Float64Array;
  readonly fixedA: Float64Array;
}

export const noLoads = ({ places }: Net): Loads => ({
  siemens: new Float64Array(places.length),
  fixedA: Float64Array.from(places, (place) => (place.kind === "board" ? place.drawA : 0)),
});

/** How a net stands under loads. */
export interface Solved {
  /** At each place; at a supply, at its terminals. */
  readonly volts: Float64Array;
  /** Into each place through its run; of a root, what it gives. */
  readonly amps: Float64Array;
  /** What each supply gives, by its place. */
  readonly givenA: Float64Array;
  /** Supplies that are asked for more than they can give. */
  readonly isLimited: Uint8Array;
}

const mostRounds = 200;
const nearA = 1e-9;
/** What needs a current of its own gets less of it below this: nothing runs on no voltage. */
const fullAtVolts = 1;
/** What a regulator takes for itself. */
const ownA = 0.005;

/**
 * Solves nets of one shape again and again without making anything anew. Runs make a tree, so what hangs behind a run looks from its beginning like a conductance
 * and a current: I = I₀ + G·U, and through a resistance R: G′ = G / (1 + R·G), I₀′ = I₀ / (1 + R·G). One pass towards the supplies gathers them, one pass away gives
 * all voltages. Only regulators, and boards that are about to go out, bend this line; for them it is done again until nothing changes.
 */
export class Solver {
  readonly #net: Net;
  readonly #g: Float64Array;
  readonly #i: Float64Array;
  /** What each regulator takes in, as the last round had it. */
  readonly #takenA: Float64Array;
  #hasLimits = true;
  readonly solved: Solved;

  constructor(net: Net) {
    const count = net.places.length;
    this.#net = net;
    this.#g = new Float64Array(count);
    this.#i = new Float64Array(count);
    this.#takenA = new Float64Array(count);
    this.solved = {
      volts: new Float64Array(count),
      amps: new Float64Array(count),
      givenA: new Float64Array(count),
      isLimited: new Uint8Array(count),
    };
  }

  /**
   * Solves for loads, with batteries at a charge of 0 to 1. Without limits it says what would be asked of each supply if it could give it. What it gives is written
   * over at the next call.
   */
  solve(loads: Loads, charge = 1, hasLimits = true): Solved {
    this.#hasLimits = hasLimits;
    this.#takenA.fill(0);
    // Before anything is known every place has plenty.
    this.solved.volts.fill(Number.POSITIVE_INFINITY);
    for (let round = 0; round < mostRounds; round += 1) {
      this.#gather(loads);
      if (this.#spread(loads, charge, round) < nearA) break;
    }
    return this.solved;
  }

  /** From the ends to the supplies. */
  #gather({ siemens, fixedA }: Loads): void {
    const { places, parents, ohms } = this.#net;
    this.#g.set(siemens);
    for (let at = 0; at < places.length; at += 1)
      this.#i[at] = (fixedA[at] as number) * this.#shareAt(this.solved.volts[at] as number);
    for (let at = places.length - 1; at >= 0; at -= 1) {
      const parent = parents[at] as number;
      if (parent < 0) continue;
      const isSupply = (places[at] as Place).kind === "supply";
      const g = isSupply ? 0 : (this.#g[at] as number);
      const i = isSupply ? (this.#takenA[at] as number) : (this.#i[at] as number);
      const through = 1 + (ohms[at] as number) * g;
      this.#g[parent] = (this.#g[parent] as number) + g / through;
      this.#i[parent] = (this.#i[parent] as number) + i / through;
    }
  }

  /** From the supplies to the ends. Gives how far what regulators and boards take is from what it was taken to be. */
  #spread({ siemens, fixedA }: Loads, charge: number, round: number): number {
    const { places, parents, ohms, isFed } = this.#net;
    const { volts, amps, givenA, isLimited } = this.solved;
    let off = 0;
    for (let at = 0; at < places.length; at += 1) {
      const place = places[at] as Place;
      const parent = parents[at] as number;
      if (!isFed[at]) {
        volts[at] = 0;
        amps[at] = 0;
        continue;
      }
      const [g, i] = [this.#g[at] as number, this.#i[at] as number];
      const before = volts[at] as number;
      if (place.kind === "supply") {
        const source = sourceOf(place.supply, charge);
        const comesV = parent < 0 ? Number.POSITIVE_INFINITY : this.#comesTo(at, parent);
        const most = Math.max(0, Math.min(source.volts, comesV - headroomOf(place)));
        let out = Math.max(0, (most - source.ohm * i) / (1 + source.ohm * g));
        const mostA = this.#hasLimits ? place.supply.limitMa / 1000 : Number.POSITIVE_INFINITY;
        isLimited[at] = i + g * out > mostA * (1 + 1e-9) ? 1 : 0;
        if (isLimited[at]) out = g > 0 ? Math.max(0, Math.min(out, (mostA - i) / g)) : 0;
        volts[at] = out;
        givenA[at] = i + g * out;
        amps[at] = givenA[at] as number;
        if (!isRoot(place.supply)) {
          const takes = takenBy(place, givenA[at] as number, out, comesV);
          const last = this.#takenA[at] as number;
          off = Math.max(off, Math.abs(takes - last));
          // Half-way each time, once it might swing.
          this.#takenA[at] = round < 4 ? takes : (takes + last) / 2;
          amps[at] = takes;
        }
      } else {
        const parentV = volts[parent] as number;
        amps[at] = (i + g * parentV) / (1 + (ohms[at] as number) * g);
        volts[at] = Math.max(0, parentV - (ohms[at] as number) * (amps[at] as number));
      }
      if ((fixedA[at] as number) > 0) {
        const change = this.#shareAt(volts[at] as number) - this.#shareAt(before);
        off = Math.max(off, Math.abs(change * (fixedA[at] as number)));
      }
    }
    return siemens.length === 0 ? 0 : off;
  }

  #comesTo(at: number, parent: number): number {
    return (this.solved.volts[parent] as number) - (this.#net.ohms[at] as number) * (this.#takenA[at] as number);
  }

  #shareAt(volts: number): number {
    return Math.max(0, Math.min(1, volts / fullAtVolts));
  }
}

const headroomOf = (place: Extract<Place, { kind: "supply" }>): number =>
  place.supply.gives.kind === "regulator" ? place.supply.gives.headroomVolts : 0;

/** What a regulator or a pin takes in for what it gives. */
function takenBy(place: Extract<Place, { kind: "supply" }>, givenA: number, outV: number, inV: number): number {
  const { gives } = place.supply;
  if (gives.kind !== "regulator") return givenA;
  if (inV <= fullAtVolts) return 0;
  return gives.works === "linear" ? givenA + ownA : (givenA * outV) / (gives.efficiency * inV) + ownA;
}
