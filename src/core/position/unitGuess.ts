import type { SignalMaker } from "@core/encodings";
import { conventionOf, doubtfulSentence, numberIn } from "@core/numbers";
import { type ServoCard, setPointUnit } from "@core/project";
import { ok, problem, type Result } from "@core/result";

/** One reading of some pasted numbers: what they may be, and what they would then do. */
export interface UnitReading {
  readonly name: string;
  /** The pulses that the numbers would make, in µs, in the order they were given. */
  readonly pulsesUs: readonly number[];
  /** 0…1; only for ranking. */
  readonly plausibility: number;
  /** Whether every pulse lies inside the hard window of the servo. */
  readonly isSafe: boolean;
  /** What to mind, in a sentence. */
  readonly says: string;
}

/** Reads two or more numbers out of any text: "1640, 7864", "min=0.5ms max=2.5". */
export function readNumbers(text: string): Result<readonly number[]> {
  // In a list a comma parts numbers, unless it stands between digits of one: 0,5 and 2,5.
  const found = text.match(/[-−]?\d+(?:[.,]\d+)*(?:e[-+]?\d+)?/gi) ?? [];
  const { convention, doubtful } = conventionOf(found);
  if (doubtful !== null) return problem(doubtfulSentence(doubtful));
  const numbers = found.map((digits) => numberIn(digits, convention));
  if (numbers.some(Number.isNaN)) return problem("Part the numbers by a comma and a blank, such as 1640, 7864.");
  if (numbers.length === 0) return problem("There is no number in this. Paste two or three, such as 1640, 7864.");
  if (numbers.length > 20) return problem("That is more than 20 numbers. Paste the lowest and the highest, or three.");
  return ok(numbers);
}

interface Candidate {
  readonly name: string;
  readonly toUs: (value: number) => number;
  /** How common it is, before the numbers are looked at; 0…1. */
  readonly commonness: number;
  /** Whether these numbers are of this unit's form at all. */
  readonly fits: (numbers: readonly number[]) => boolean;
}

const periodUs = 20_000;
const isWhole = (numbers: readonly number[]) => numbers.every(Number.isInteger);
const any = () => true;
const upTo = (highest: number) => (numbers: readonly number[]) =>
  isWhole(numbers) && numbers.every((value) => value >= 0 && value <= highest);

const candidates: readonly Candidate[] = [
  { name: "µs", toUs: (value) => value, commonness: 1, fits: any },
  { name: "ms", toUs: (value) => value * 1000, commonness: 0.9, fits: any },
  { name: "ns", toUs: (value) => value / 1000, commonness: 0.6, fits: isWhole },
  {
    name: "duty % at 50 Hz",
    toUs: (value) => (value / 100) * periodUs,
    commonness: 0.9,
    fits: (all) => all.every((value) => value <= 100),
  },
  {
    name: "duty 0…1 at 50 Hz",
    toUs: (value) => value * periodUs,
    commonness: 0.8,
    fits: (all) => all.every((value) => value <= 1),
  },
  ...[8, 10, 12, 13, 14, 15, 16, 20].map(
    (bits): Candidate => ({
      name: `counts of ${bits} bits at 50 Hz`,
      toUs: (value) => (value / (2 ** bits - 1)) * periodUs,
      commonness: bits === 12 || bits === 16 ? 0.95 : bits === 8 || bits === 10 ? 0.8 : 0.5,
      fits: upTo(2 ** bits - 1),
    }),
  ),
  { name: "timer ticks of 0.5 µs", toUs: (value) => value / 2, commonness: 0.6, fits: upTo(65_535) },
  { name: "quarter µs", toUs: (value) => value / 4, commonness: 0.55, fits: upTo(65_535) },
];

/**
 * The plausible readings of some numbers, best first: those whose pulses look like a servo's, on this board first.
 * Pulses look like a servo's when all lie between 300 and 2800 µs, they span 300 to 2200 µs, and lie about 1500 µs.
 */
export function readingsOf(numbers: readonly number[], card: ServoCard, maker: SignalMaker): readonly UnitReading[] {
  const own: Candidate[] =
    maker.unit === "count" && (maker.countName === "count" || maker.countName === "compare")
      ? [
          {
            name: "this board's own numbers",
            toUs: (value) => maker.toSetPoint(value),
            commonness: 1,
            fits: upTo(maker.highestCount),
          },
        ]
      : [];
  const degrees = degreesReading(numbers, card);
  const readings = [...own, ...candidates]
    .filter((candidate) => candidate.fits(numbers))
    .map((candidate) => readingOf(candidate, numbers, card))
    .filter((reading) => reading.plausibility > 0.05);
  return [...readings, ...(degrees ? [degrees] : [])].sort((a, b) => b.plausibility - a.plausibility).slice(0, 6);
}

function readingOf(candidate: Candidate, numbers: readonly number[], card: ServoCard): UnitReading {
  const pulsesUs = numbers.map(candidate.toUs);
  const plausibility = candidate.commonness * likenessOf(pulsesUs);
  return { name: candidate.name, pulsesUs, plausibility, ...safetyOf(pulsesUs, card) };
}

/** How much pulses look like those of a servo, 0…1. */
function likenessOf(pulsesUs: readonly number[]): number {
  const low = Math.min(...pulsesUs);
  const high = Math.max(...pulsesUs);
  if (low < 300 || high > 2800) return 0;
  const offCentreUs = Math.abs((low + high) / 2 - 1500);
  const spanUs = high - low;
  const centred = Math.exp(-((offCentreUs / 350) ** 2));
  // One number, or the same twice, has no span to judge by.
  const spread = spanUs === 0 ? 0.6 : spanUs < 300 ? 0.4 + spanUs / 500 : spanUs > 2200 ? 0.5 : 1;
  return centred * spread;
}

/** Numbers of 0…360 may simply be angles; then nothing is said of pulses but what the card makes of them. */
function degreesReading(numbers: readonly number[], card: ServoCard): UnitReading | null {
  if (card.kind === "continuous" || !numbers.every((value) => value >= -180 && value <= 360)) return null;
  const slope = (card.nominal.high - card.nominal.low) / card.travelDeg;
  const pulsesUs = numbers.map((deg) => card.nominal.low + slope * deg);
  const isLikely = numbers.some((value) => value === 0 || value === 90 || value === 180 || value === -90);
  const plausibility = isLikely ? 0.9 : Math.max(...numbers) - Math.min(...numbers) >= 20 ? 0.35 : 0.1;
  return { name: "degrees, by the data sheet", pulsesUs, plausibility, ...safetyOf(pulsesUs, card) };
}

function safetyOf(pulsesUs: readonly number[], card: ServoCard): Pick<UnitReading, "isSafe" | "says"> {
  const { low, high } = card.window;
  const unit = setPointUnit(card);
  const outside = pulsesUs.filter((pulseUs) => pulseUs < low || pulseUs > high);
  const isSafe = outside.length === 0;
  return {
    isSafe,
    says: isSafe
      ? `Inside the hard window of ${card.label}, ${low} to ${high} ${unit}.`
      : `${outside.map((pulseUs) => pulseUs.toFixed(0)).join(" and ")} ${unit} would leave the hard window of ${low} to ${high} ${unit}: the gate would hold it back.`,
  };
}
