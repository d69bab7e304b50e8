/** A corner of a line through a take: when, and which target. */
export interface Corner {
  readonly atMs: number;
  readonly target: number;
}

/**
 * The fewest corners of a line that stays within `largest` of every sample of a take.
 *
 * The samples, each widened by `largest` upwards and downwards, are a tunnel; the line with the fewest corners through a tunnel that runs one
 * way is found by going as far as one straight line can, and on from there (Imai and Iri 1987; the two hulls after O'Rourke 1981). How far
 * a line can go is known at the moment when the flattest or the steepest one that still fits is cut off. That line is kept, and the next begins somewhere on its
 * last stretch; where two kept lines cross is a corner. No other line within the tunnel has fewer corners, and the time grows with
 * the samples, not with their square. Corners need not lie on samples, nor at the time of a frame.
 *
 * Between samples the take is the straight line between them, and the bound holds there as well.
 * Takes at least one sample, `frameMs` apart, and a bound above 0; gives at least two corners, the first at 0 and the last at the end.
 */
export function reduceToCorners(samples: ArrayLike<number>, frameMs: number, largest: number): Corner[] {
  const last = samples.length - 1;
  const first = samples[0] as number;
  if (last < 1) return [{ atMs: 0, target: first }];
  // A hair less than what is promised, so that no rounding of the crossing points breaks the promise.
  const bound = largest * (1 - 1e-7);
  const lines: Line[] = [];
  let tunnel = new Tunnel();
  tunnel.addLower(0, first - bound);
  tunnel.addUpper(0, first + bound);
  let at = 1;
  while (at <= last) {
    const atMs = at * frameMs;
    const sample = samples[at] as number;
    if (tunnel.isCutByUpper(atMs, sample + bound)) {
      const { line, pivotMs, pivot } = tunnel.flattest;
      const edge = crossing(line, atMs - frameMs, (samples[at - 1] as number) + bound, atMs, sample + bound);
      lines.push(line);
      tunnel = new Tunnel();
      tunnel.addLower(pivotMs, pivot);
      for (let back = Math.floor(pivotMs / frameMs) + 1; back < at; back += 1)
        if (back * frameMs > pivotMs) tunnel.addLower(back * frameMs, (samples[back] as number) - bound);
      tunnel.addUpper(edge.atMs, edge.target);
    } else if (tunnel.isCutByLower(atMs, sample - bound)) {
      const { line, pivotMs, pivot } = tunnel.steepest;
      const edge = crossing(line, atMs - frameMs, (samples[at - 1] as number) - bound, atMs, sample - bound);
      lines.push(line);
      tunnel = new Tunnel();
      tunnel.addUpper(pivotMs, pivot);
      for (let back = Math.floor(pivotMs / frameMs) + 1; back < at; back += 1)
        if (back * frameMs > pivotMs) tunnel.addUpper(back * frameMs, (samples[back] as number) + bound);
      tunnel.addLower(edge.atMs, edge.target);
    }
    tunnel.addLower(atMs, sample - bound);
    tunnel.addUpper(atMs, sample + bound);
    at += 1;
  }
  lines.push(tunnel.middle);
  return cornersOf(lines, last * frameMs);
}

/** The largest distance between a take and the line through some corners, over all samples; in targets. */
export function largestError(samples: ArrayLike<number>, frameMs: number, corners: readonly Corner[]): number {
  let worst = 0;
  let at = 0;
  for (let frame = 0; frame < samples.length; frame += 1) {
    const atMs = frame * frameMs;
    while (at < corners.length - 2 && (corners[at + 1]?.atMs ?? 0) <= atMs) at += 1;
    const a = corners[at] as Corner;
    const b = corners[at + 1] ?? a;
    const share = b.atMs > a.atMs ? (atMs - a.atMs) / (b.atMs - a.atMs) : 0;
    worst = Math.max(worst, Math.abs(a.target + (b.target - a.target) * share - (samples[frame] as number)));
  }
  return worst;
}

/** A straight line through a point. */
interface Line {
  readonly throughMs: number;
  readonly through: number;
  /** Targets per ms. */
  readonly slope: number;
}

const valueOn = (line: Line, atMs: number) => line.through + line.slope * (atMs - line.throughMs);

/** Where a line leaves the tunnel through the straight edge from one sample's bound to the next. */
function crossing(line: Line, aMs: number, a: number, bMs: number, b: number): Corner {
  const edgeSlope = (b - a) / (bMs - aMs);
  const apart = a - valueOn(line, aMs);
  const turn = line.slope - edgeSlope;
  const atMs = turn === 0 ? aMs : Math.min(bMs, Math.max(aMs, aMs + apart / turn));
  return { atMs, target: valueOn(line, atMs) };
}

/** The corners of the kept lines: where each crosses the next, and the two ends. */
function cornersOf(lines: readonly Line[], endMs: number): Corner[] {
  const corners: Corner[] = [{ atMs: 0, target: valueOn(lines[0] as Line, 0) }];
  for (let at = 1; at < lines.length; at += 1) {
    const a = lines[at - 1] as Line;
    const b = lines[at] as Line;
    const turn = b.slope - a.slope;
    const beforeMs = corners.at(-1)?.atMs ?? 0;
    const crossMs = turn === 0 ? beforeMs : a.throughMs + (valueOn(b, a.throughMs) - a.through) / -turn;
    const atMs = Math.min(endMs, Math.max(beforeMs, crossMs));
    if (atMs > beforeMs) corners.push({ atMs, target: valueOn(a, atMs) });
  }
  const last = lines.at(-1) as Line;
  const end = { atMs: endMs, target: valueOn(last, endMs) };
  if ((corners.at(-1)?.atMs ?? 0) < endMs) corners.push(end);
  return corners;
}

interface Pivoted {
  readonly line: Line;
  /** The last point of the tunnel that the line touches. */
  readonly pivotMs: number;
  readonly pivot: number;
}

/**
 * The part of the tunnel that one line has to pass: points it must not be under, and points it must not be over. It knows the steepest and
 * the flattest line that pass them all. Points come in the order of time.
 */
class Tunnel {
  /** The lower points that a falling line may lean on: a hull bent downwards, from `#lowerFrom` on. */
  readonly #lowerMs: number[] = [];
  readonly #lower: number[] = [];
  #lowerFrom = 0;
  readonly #upperMs: number[] = [];
  readonly #upper: number[] = [];
  #upperFrom = 0;
  /** From an early lower point to a late upper one. */
  #steep: Leaning | null = null;
  /** From an early upper point to a late lower one. */
  #flat: Leaning | null = null;

  /** Whether even the flattest line would pass over this upper point. */
  isCutByUpper(atMs: number, upper: number): boolean {
    const flat = this.#flat;
    return flat !== null && along(flat, atMs) > upper;
  }

  isCutByLower(atMs: number, lower: number): boolean {
    const steep = this.#steep;
    return steep !== null && along(steep, atMs) < lower;
  }

  addUpper(atMs: number, upper: number): void {
    // The steepest line now leans on this point, and on the lower point from which it looks lowest.
    if (this.#lowerMs.length > 0 && (this.#steep === null || along(this.#steep, atMs) > upper)) {
      const [ms, values] = [this.#lowerMs, this.#lower];
      let at = this.#lowerFrom;
      while (
        at + 1 < ms.length &&
        (ms[at + 1] as number) < atMs &&
        slopeTo(ms, values, at + 1, atMs, upper) <= slopeTo(ms, values, at, atMs, upper)
      )
        at += 1;
      if ((this.#lowerMs[at] as number) < atMs) {
        this.#lowerFrom = at;
        this.#steep = { fromMs: this.#lowerMs[at] as number, from: this.#lower[at] as number, toMs: atMs, to: upper };
      }
    }
    push(this.#upperMs, this.#upper, this.#upperFrom, atMs, upper, 1);
  }

  addLower(atMs: number, lower: number): void {
    if (this.#upperMs.length > 0 && (this.#flat === null || along(this.#flat, atMs) < lower)) {
      const [ms, values] = [this.#upperMs, this.#upper];
      let at = this.#upperFrom;
      while (
        at + 1 < ms.length &&
        (ms[at + 1] as number) < atMs &&
        slopeTo(ms, values, at + 1, atMs, lower) >= slopeTo(ms, values, at, atMs, lower)
      )
        at += 1;
      if ((this.#upperMs[at] as number) < atMs) {
        this.#upperFrom = at;
        this.#flat = { fromMs: this.#upperMs[at] as number, from: this.#upper[at] as number, toMs: atMs, to: lower };
      }
    }
    push(this.#lowerMs, this.#lower, this.#lowerFrom, atMs, lower, -1);
  }

  get flattest(): Pivoted {
    return pivoted(this.#flat as Leaning);
  }

  get steepest(): Pivoted {
    return pivoted(this.#steep as Leaning);
  }

  /** A line that passes all points: half-way between the steepest and the flattest, through the point where they cross. */
  get middle(): Line {
    const steep = this.#steep;
    const flat = this.#flat;
    if (!steep || !flat) {
      const leaning = steep ?? flat;
      if (leaning) return pivoted(leaning).line;
      const target = ((this.#lower[0] ?? this.#upper[0] ?? 0) + (this.#upper[0] ?? this.#lower[0] ?? 0)) / 2;
      return { throughMs: 0, through: target, slope: 0 };
    }
    const a = pivoted(steep).line;
    const b = pivoted(flat).line;
    const turn = a.slope - b.slope;
    const crossMs = turn === 0 ? a.throughMs : a.throughMs + (valueOn(b, a.throughMs) - a.through) / turn;
    return { throughMs: crossMs, through: valueOn(a, crossMs), slope: (a.slope + b.slope) / 2 };
  }
}

/** The slope from a point of a hull to another point. */
const slopeTo = (ms: readonly number[], values: readonly number[], at: number, toMs: number, to: number) =>
  (to - (values[at] as number)) / (toMs - (ms[at] as number));

interface Leaning {
  readonly fromMs: number;
  readonly from: number;
  readonly toMs: number;
  readonly to: number;
}

const along = (line: Leaning, atMs: number) =>
  line.from + ((line.to - line.from) / (line.toMs - line.fromMs)) * (atMs - line.fromMs);

const pivoted = (leaning: Leaning): Pivoted => ({
  line: {
    throughMs: leaning.fromMs,
    through: leaning.from,
    slope: (leaning.to - leaning.from) / (leaning.toMs - leaning.fromMs),
  },
  pivotMs: leaning.toMs,
  pivot: leaning.to,
});

/**
 * Adds a point to a hull that is bent one way: `bend` 1 keeps what a line from the right sees from below, −1 from above. Points before
 * `from` are behind and are left alone.
 */
function push(ms: number[], values: number[], from: number, atMs: number, value: number, bend: 1 | -1): void {
  while (ms.length - from >= 2) {
    const last = ms.length - 1;
    const aMs = ms[last - 1] as number;
    const bMs = ms[last] as number;
    const a = values[last - 1] as number;
    const b = values[last] as number;
    const turn = (b - a) * (atMs - aMs) - (value - a) * (bMs - aMs);
    if (turn * bend < 0) break;
    ms.pop();
    values.pop();
  }
  ms.push(atMs);
  values.push(value);
}
