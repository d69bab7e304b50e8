const fineUs = 0.1;
const fineBins = 20_000;
const fineEndUs = fineUs * fineBins;
/** Beyond the fine bins each is this much wider than the one before. */
const growth = 1.001;
const perBin = 1 / Math.log(growth);
/** Up to a quarter of an hour too long: nothing waits longer for a pulse. */
const wideBins = Math.ceil(Math.log(1e9 / fineEndUs) * perBin);
const bins = fineBins + wideBins;

/**
 * How pulse widths are spread, by how much they are longer than asked: to 0.1 µs up to 2 ms, to a thousandth of it beyond; the worst is
 * kept exactly. Constant room and time, however many pulses.
 */
export class PulseSpread {
  readonly askedUs: number;
  count = 0;
  worstUs = 0;
  sumUs = 0;
  readonly #bins = new Uint32Array(bins);

  constructor(askedUs: number) {
    this.askedUs = askedUs;
  }

  add(pulseUs: number): void {
    const lateUs = pulseUs - this.askedUs;
    const bin =
      lateUs < fineEndUs
        ? Math.max((lateUs / fineUs) | 0, 0)
        : Math.min(bins - 1, fineBins + ((Math.log(lateUs / fineEndUs) * perBin) | 0));
    this.#bins[bin] = (this.#bins[bin] as number) + 1;
    this.count += 1;
    this.sumUs += pulseUs;
    if (pulseUs > this.worstUs) this.worstUs = pulseUs;
  }

  /** The pulse that this share (0…1) of all stay under, in µs: the middle of its bin, and never past the worst. */
  quantileUs(share: number): number {
    const wanted = Math.ceil(share * this.count);
    let seen = 0;
    for (let bin = 0; bin < bins; bin += 1) {
      seen += this.#bins[bin] as number;
      if (seen >= wanted) return Math.min(this.worstUs, this.#middleUs(bin));
    }
    return this.worstUs;
  }

  /** The share of pulses that are further than this from the median. Those in the median's own bin are not told apart from it. */
  shareBeyond(distanceUs: number): number {
    const medianUs = this.quantileUs(0.5);
    let beyond = 0;
    for (let bin = 0; bin < bins; bin += 1) {
      const count = this.#bins[bin] as number;
      if (count > 0 && Math.abs(Math.min(this.worstUs, this.#middleUs(bin)) - medianUs) > distanceUs) beyond += count;
    }
    return beyond / this.count;
  }

  /** The pulses counted in `columns` equal columns from the asked pulse to `toUs`; the last takes what lies beyond. */
  histogram(columns: number, toUs: number): { readonly fromUs: number; readonly count: number }[] {
    const widthUs = (toUs - this.askedUs) / columns;
    const counted = Array.from({ length: columns }, (_, at) => ({ fromUs: this.askedUs + at * widthUs, count: 0 }));
    for (let bin = 0; bin < bins; bin += 1) {
      const count = this.#bins[bin] as number;
      const column = counted[Math.min(Math.floor((this.#middleUs(bin) - this.askedUs) / widthUs), columns - 1)];
      if (count > 0 && column) column.count += count;
    }
    return counted;
  }

  #middleUs(bin: number): number {
    const lateUs = bin < fineBins ? (bin + 0.5) * fineUs : fineEndUs * growth ** (bin - fineBins + 0.5);
    return this.askedUs + lateUs;
  }
}
