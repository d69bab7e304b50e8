const binUs = 0.1;
const bins = 20_000;

/**
 * How pulse widths are spread, in bins of 0.1 µs from the asked pulse up to 2 ms past it; what lies beyond is counted in
 * the last bin, but the worst is kept exactly. Constant room and time, however many pulses.
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
    const bin = Math.max(Math.min(((pulseUs - this.askedUs) / binUs) | 0, bins - 1), 0);
    this.#bins[bin] = (this.#bins[bin] as number) + 1;
    this.count += 1;
    this.sumUs += pulseUs;
    if (pulseUs > this.worstUs) this.worstUs = pulseUs;
  }

  /** The pulse that this share (0…1) of all stay under, in µs, to a tenth. */
  quantileUs(share: number): number {
    const wanted = Math.ceil(share * this.count);
    let seen = 0;
    for (let bin = 0; bin < bins; bin += 1) {
      seen += this.#bins[bin] as number;
      if (seen >= wanted) return bin === bins - 1 ? this.worstUs : this.askedUs + (bin + 0.5) * binUs;
    }
    return this.worstUs;
  }

  /** The share of pulses that are further than this from the median. */
  shareBeyond(distanceUs: number): number {
    const medianUs = this.quantileUs(0.5);
    let beyond = 0;
    for (let bin = 0; bin < bins; bin += 1) {
      const at = this.askedUs + (bin + 0.5) * binUs;
      if (Math.abs(at - medianUs) > distanceUs) beyond += this.#bins[bin] as number;
    }
    return beyond / this.count;
  }

  /** The pulses counted in `columns` equal columns from the asked pulse to `toUs`; the last takes what lies beyond. */
  histogram(columns: number, toUs: number): { readonly fromUs: number; readonly count: number }[] {
    const widthUs = (toUs - this.askedUs) / columns;
    const counted = Array.from({ length: columns }, (_, at) => ({ fromUs: this.askedUs + at * widthUs, count: 0 }));
    for (let bin = 0; bin < bins; bin += 1) {
      const count = this.#bins[bin] as number;
      const column = counted[Math.min(Math.floor(((bin + 0.5) * binUs) / widthUs), columns - 1)];
      if (count > 0 && column) column.count += count;
    }
    return counted;
  }
}
