import type { SignalMaker } from "@core/encodings";
import { conventionOf, doubtfulSentence, figure, numberIn } from "@core/numbers";
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

/** What is written beside numbers, as far as it names their unit. */
type NamedUnit = "µs" | "ms" | "s" | "ns" | "%" | "°" | "counts";

/** Numbers out of any text, in their order, with the unit that is written beside them; null where none is. */
export interface Pasted {
  readonly numbers: readonly number[];
  readonly unit: NamedUnit | null;
}

const unitWords: readonly (readonly [NamedUnit, RegExp])[] = [
  ["µs", /(?:^|[\s\d.,])(?:[µμu]s|usec|microseconds?)(?![a-z])/i],
  ["ms", /(?:^|[\s\d.,])(?:ms|msec|milliseconds?)(?![a-z])/i],
  ["ns", /(?:^|[\s\d.,])(?:ns|nanoseconds?)(?![a-z])/i],
  ["s", /(?:^|[\s\d.,])(?:s|sec|seconds?)(?![a-z])/i],
  ["%", /%|percent|per cent/i],
  ["°", /°|(?:^|[\s\d.,])(?:deg|degrees?)(?![a-z])/i],
  ["counts", /(?:^|[\s\d.,])(?:counts?|ticks?|steps?)(?![a-z])/i],
];

/** Numbers are looked for in a line, not in a file. */
const longestText = 2000;

/** A number, with a decimal mark in front as well: .5 */
const written = String.raw`(?:\d+(?:[.,]\d+)*|[.,]\d+)(?:e[-+]?\d+)?`;
/** A dash that parts two numbers, as in 500-2500 or 0.5 – 2.5 ms: not a sign, which has a blank before it and none behind. */
const range = new RegExp(
  String.raw`(${written}\s*(?:[a-zµμ%°]+)?)(?:\s*(?:–|—|\.{2,3}|…|\bto\b)\s*|-|\s+[-−]\s+)(?=[.,]?\d)`,
  "gi",
);

/** Reads two or more numbers out of any text: "1640, 7864", "500-2500", "min=.5 max=2.5 ms", "±90". */
export function readNumbers(text: string): Result<Pasted> {
  if (text.length > longestText)
    return problem("That is a whole page. Paste the lowest and the highest number, or three.");
  const plain = text
    .replace(range, "$1 ; ")
    .replace(new RegExp(String.raw`(?:±|\+/-)\s*(${written})`, "gi"), "-$1 ; $1");
  // In a list a comma parts numbers, unless it stands between digits of one: 0,5 and 2,5.
  const found = plain.match(new RegExp(String.raw`(?<![\d.,])[-−]?${written}`, "gi")) ?? [];
  const { convention, doubtful } = conventionOf(found);
  if (doubtful !== null) return problem(doubtfulSentence(doubtful));
  const numbers = found.map((digits) => numberIn(digits, convention));
  if (numbers.some(Number.isNaN)) return problem("Part the numbers by a comma and a blank, such as 1640, 7864.");
  if (numbers.length === 0) return problem("There is no number in this. Paste two or three, such as 1640, 7864.");
  if (numbers.length > 20) return problem("That is more than 20 numbers. Paste the lowest and the highest, or three.");
  return ok({ numbers, unit: unitWords.find(([, words]) => words.test(text))?.[0] ?? null });
}

interface Candidate {
  readonly name: string;
  readonly unit: NamedUnit;
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

const hasBothSigns = (numbers: readonly number[]) => numbers.some((value) => value < 0);

const candidates: readonly Candidate[] = [
  { name: "µs", unit: "µs", toUs: (value) => value, commonness: 1, fits: any },
  { name: "ms", unit: "ms", toUs: (value) => value * 1000, commonness: 0.9, fits: any },
  { name: "seconds", unit: "s", toUs: (value) => value * 1e6, commonness: 0.8, fits: any },
  { name: "ns", unit: "ns", toUs: (value) => value / 1000, commonness: 0.6, fits: isWhole },
  {
    name: "duty % at 50 Hz",
    unit: "%",
    toUs: (value) => (value / 100) * periodUs,
    commonness: 0.9,
    fits: (all) => all.every((value) => value <= 100),
  },
  {
    name: "duty 0…1 at 50 Hz",
    unit: "%",
    toUs: (value) => value * periodUs,
    commonness: 0.8,
    fits: (all) => all.every((value) => value <= 1),
  },
  ...[8, 10, 12, 13, 14, 15, 16, 20].map(
    (bits): Candidate => ({
      name: `counts of ${bits} bits at 50 Hz`,
      unit: "counts",
      toUs: (value) => (value / (2 ** bits - 1)) * periodUs,
      commonness: bits === 12 || bits === 16 ? 0.95 : bits === 8 || bits === 10 ? 0.8 : 0.5,
      fits: upTo(2 ** bits - 1),
    }),
  ),
  { name: "timer ticks of 0.5 µs", unit: "counts", toUs: (value) => value / 2, commonness: 0.6, fits: upTo(65_535) },
  { name: "quarter µs", unit: "counts", toUs: (value) => value / 4, commonness: 0.55, fits: upTo(65_535) },
];

/** What is given of the way from the middle to either end, by the sheet of this very servo. */
function fromMiddle(card: ServoCard): readonly Candidate[] {
  const [low, high] =
    card.kind === "continuous" ? [card.nominal.back, card.nominal.forward] : [card.nominal.low, card.nominal.high];
  const at = (share: number) => (low + high) / 2 + (share * (high - low)) / 2;
  const within = (most: number) => (all: readonly number[]) =>
    hasBothSigns(all) && all.every((value) => Math.abs(value) <= most);
  const shares: Candidate[] = [
    { name: "−1…1 about its middle, by the data sheet", unit: "counts", toUs: at, commonness: 0.95, fits: within(1) },
    {
      name: "−100…100 % about its middle, by the data sheet",
      unit: "%",
      toUs: (value) => at(value / 100),
      commonness: 0.85,
      fits: within(100),
    },
  ];
  if (card.kind === "continuous") return shares;
  const perDeg = (high - low) / card.travelDeg;
  const isRound = (all: readonly number[]) =>
    all.every((value) => Number.isInteger(value / 5)) && all.some((value) => Math.abs(value) >= 30);
  return [
    ...shares,
    {
      name: "degrees about its middle, by the data sheet",
      unit: "°",
      toUs: (value) => (low + high) / 2 + perDeg * value,
      commonness: 0.9,
      fits: (all) => hasBothSigns(all) && all.every((value) => Math.abs(value) <= card.travelDeg / 2 + 1),
    },
    {
      name: "degrees, by the data sheet",
      unit: "°",
      toUs: (value) => low + perDeg * value,
      commonness: 0.9,
      fits: (all) => !hasBothSigns(all) && all.every((value) => value <= card.travelDeg + 1) && isRound(all),
    },
    {
      name: "degrees, by the data sheet",
      unit: "°",
      toUs: (value) => low + perDeg * value,
      commonness: 0.2,
      fits: (all) => !hasBothSigns(all) && all.every((value) => value <= card.travelDeg + 1) && !isRound(all),
    },
  ];
}

/** A unit that is written beside the numbers makes what fits it so much likelier, and the others so much less likely. */
const namedFactor = 4;

/**
 * The plausible readings of some numbers, best first: those whose pulses look like a servo's, on this board first.
 * Pulses look like a servo's when all lie between 300 and 2800 µs, they span 300 to 2200 µs, and lie about 1500 µs.
 */
export function readingsOf({ numbers, unit }: Pasted, card: ServoCard, maker: SignalMaker): readonly UnitReading[] {
  const own: Candidate[] =
    maker.unit === "count" && (maker.countName === "count" || maker.countName === "compare")
      ? [
          {
            name: "this board's own numbers",
            unit: "counts",
            toUs: (value) => maker.toSetPoint(value),
            commonness: 1,
            fits: upTo(maker.highestCount),
          },
        ]
      : [];
  return [...own, ...candidates, ...fromMiddle(card)]
    .filter((candidate) => candidate.fits(numbers))
    .map((candidate) => readingOf(candidate, numbers, unit, card))
    .filter((reading) => reading.plausibility > 0.05)
    .sort((a, b) => b.plausibility - a.plausibility)
    .slice(0, 6);
}

function readingOf(
  { name, unit, toUs, commonness }: Candidate,
  numbers: readonly number[],
  named: NamedUnit | null,
  card: ServoCard,
): UnitReading {
  const pulsesUs = numbers.map(toUs);
  const factor = named === null ? 1 : named === unit ? namedFactor : 1 / namedFactor;
  const safety = safetyOf(pulsesUs, card);
  // What this very servo can take is likelier than what only some servo could.
  const plausibility = commonness * likenessOf(pulsesUs) * factor * (safety.isSafe ? 1 : 0.6);
  return { name, pulsesUs, plausibility, ...safety, says: `${whyOf(pulsesUs, unit, named)} ${safety.says}` };
}

/** Why it may be so. */
function whyOf(pulsesUs: readonly number[], unit: NamedUnit, named: NamedUnit | null): string {
  if (named === unit) return `“${named}” stands beside them.`;
  const [low, high] = [Math.min(...pulsesUs), Math.max(...pulsesUs)];
  const span =
    low === high ? `a pulse of ${low.toFixed(0)} µs` : `pulses of ${low.toFixed(0)} to ${high.toFixed(0)} µs`;
  const centred = Math.abs((low + high) / 2 - 1500) <= 150 ? ", about 1500 as servos have it" : "";
  return `That would be ${span}${centred}.`;
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

function safetyOf(pulsesUs: readonly number[], card: ServoCard): Pick<UnitReading, "isSafe" | "says"> {
  const { low, high } = card.window;
  const unit = setPointUnit(card);
  const outside = pulsesUs.filter((pulseUs) => pulseUs < low - 0.05 || pulseUs > high + 0.05);
  const isSafe = outside.length === 0;
  return {
    isSafe,
    says: isSafe
      ? `Inside the hard window of ${card.label}, ${low} to ${high} ${unit}.`
      : `${outside.map((pulseUs) => figure(pulseUs, 1)).join(" and ")} ${unit} would leave the hard window of ${low} to ${high} ${unit}: the gate would hold it back.`,
  };
}
