/** The version of the line protocol spoken here; see docs/link-protocol.md. */
export const protocolVersion = 2;

/** Sequence numbers run from 1 to 65 535 and then begin at 1 again. */
export const highestSequence = 65_535;
export const nextSequence = (sequence: number): number => (sequence >= highestSequence ? 1 : sequence + 1);

/** Whether a sequence number comes after another, across the turn-over: up to half the circle ahead. */
export const isAfter = (sequence: number, last: number): boolean => {
  const ahead = (sequence - last + highestSequence) % highestSequence;
  return ahead > 0 && ahead <= highestSequence / 2;
};

export type SilenceAction = "release" | "hold";

/** Who a board says it is when greeted. */
export interface Greeting {
  readonly version: number;
  readonly name: string;
  readonly countName: "count" | "tick";
  readonly channels: number;
  /** The longest line that it takes, its end included. */
  readonly longestLine: number;
  readonly groups: readonly ChannelGroup[];
  /** Channels that have a signal at this moment: none after a restart, or after a silence that released them. */
  readonly driven: readonly number[];
}

/** Channels, from the first to the last, that share a frame, and what their counts mean: pulses in ns, or positions in ticks. */
export interface ChannelGroup {
  readonly first: number;
  readonly last: number;
  /** The true period of the frame. */
  readonly periodNs: number;
  readonly lowestCount: number;
  readonly atLowest: number;
  readonly highestCount: number;
  readonly atHighest: number;
}

/** What a board holds a channel to: the lowest and the highest count, and the largest change from one frame to the next. */
export interface ChannelLimits {
  readonly channel: number;
  readonly lowest: number;
  readonly highest: number;
  readonly step: number;
}

/** A line from the host, as a board reads it. */
export type HostLine =
  | { readonly kind: "greet"; readonly version: number }
  | { readonly kind: "watchdog"; readonly sequence: number; readonly afterMs: number; readonly action: SilenceAction }
  | { readonly kind: "limits"; readonly sequence: number; readonly limits: readonly ChannelLimits[] }
  | { readonly kind: "set"; readonly sequence: number; readonly channels: readonly (readonly [number, number])[] }
  | { readonly kind: "release"; readonly sequence: number };

/** A line from a board, as the host reads it. */
export type BoardLine =
  | { readonly kind: "greeting"; readonly greeting: Greeting }
  /** `inForce` is the frame that the channels put out by now; 0 for none. */
  | { readonly kind: "done"; readonly sequence: number; readonly inForce: number }
  | { readonly kind: "refused"; readonly sequence: number; readonly code: RefusalCode }
  | { readonly kind: "silenceActed"; readonly action: SilenceAction }
  | { readonly kind: "readings"; readonly readings: readonly Reading[] };

/** What a board reads of one servo: its position (a tick, or a converter's count) and the current it draws. */
export interface Reading {
  readonly channel: number;
  readonly position: number;
  readonly currentMa: number;
}

export const refusalCodes = ["check", "form", "range", "limit", "stale", "order"] as const;
export type RefusalCode = (typeof refusalCodes)[number];

const wholePattern = /^(?:0|[1-9]\d{0,9})$/;
const highestNumber = 4_294_967_295;
/** A whole number in its one form: no sign, no zeros before it, no more than 32 bits. */
const whole = (text: string | undefined): number =>
  text !== undefined && wholePattern.test(text) && Number(text) <= highestNumber ? Number(text) : Number.NaN;
/** Numbers parted by colons, exactly so many; null for anything else. */
function numbersIn(word: string, count: number): readonly number[] | null {
  const numbers = word.split(":").map(whole);
  return numbers.length === count && !numbers.some(Number.isNaN) ? numbers : null;
}
const isTwice = (channels: readonly number[]) => new Set(channels).size < channels.length;
const sequenceOf = (text: string | undefined): number => {
  const sequence = whole(text);
  return sequence >= 1 && sequence <= highestSequence ? sequence : Number.NaN;
};
const isSilenceAction = (text: string | undefined): text is SilenceAction => text === "release" || text === "hold";

/** Reads the body of a host's line; null for anything that is not exactly of the protocol's form. */
export function readHostLine(body: string): HostLine | null {
  const [verb, first, ...others] = body.split(" ");
  if (verb === "V") {
    const version = whole(first);
    return Number.isNaN(version) || others.length > 0 ? null : { kind: "greet", version };
  }
  const sequence = sequenceOf(first);
  if (Number.isNaN(sequence)) return null;
  if (verb === "R") return others.length === 0 ? { kind: "release", sequence } : null;
  if (verb === "W") {
    const [after, action] = others;
    const afterMs = whole(after);
    if (Number.isNaN(afterMs) || !isSilenceAction(action) || others.length !== 2) return null;
    return { kind: "watchdog", sequence, afterMs, action };
  }
  if (verb === "L") {
    const limits = others.map((word) => numbersIn(word, 4));
    if (limits.length === 0 || limits.includes(null) || isTwice(limits.map((one) => one?.[0] as number))) return null;
    const read = (limits as [number, number, number, number][]).map(([channel, lowest, highest, step]) => ({
      channel,
      lowest,
      highest,
      step,
    }));
    return { kind: "limits", sequence, limits: read };
  }
  if (verb !== "S") return null;
  const channels = others.map((word) => numbersIn(word, 2) as readonly [number, number] | null);
  if (channels.includes(null) || isTwice(channels.map((one) => one?.[0] as number))) return null;
  return { kind: "set", sequence, channels: channels as (readonly [number, number])[] };
}

/** Reads the body of a board's line; null for anything else. */
export function readBoardLine(body: string): BoardLine | null {
  const words = body.split(" ");
  const [verb, first, second] = words;
  if (verb === "V") return readGreeting(words);
  if (verb === "T" && words.length === 2 && isSilenceAction(first)) return { kind: "silenceActed", action: first };
  if (verb === "P") return readReadings(words.slice(1));
  if (verb === "A" && words.length === 3) {
    const sequence = sequenceOf(first);
    const inForce = whole(second);
    return Number.isNaN(sequence + inForce) || inForce > highestSequence ? null : { kind: "done", sequence, inForce };
  }
  if (verb === "E" && words.length === 3) {
    const code = refusalCodes.find((known) => known === second);
    const sequence = whole(first);
    return code && !Number.isNaN(sequence) ? { kind: "refused", sequence, code } : null;
  }
  return null;
}

function readReadings(words: readonly string[]): BoardLine | null {
  const numbers = words.map((word) => numbersIn(word, 3));
  if (numbers.length === 0 || numbers.includes(null)) return null;
  const readings = (numbers as [number, number, number][]).map(([channel, position, currentMa]) => ({
    channel,
    position,
    currentMa,
  }));
  return { kind: "readings", readings };
}

const namePattern = /^[A-Za-z0-9_-]{1,40}$/;

function readGreeting(words: readonly string[]): BoardLine | null {
  const [, version, name = "", countName, channelsText, longestText, groupsText = "", drivenText = ""] = words;
  // A board of another version may greet in another form; its version is all that must be understood.
  const spoken = whole(version);
  if (Number.isNaN(spoken)) return null;
  const unknown = { name, countName: "count", channels: 0, longestLine: 0, groups: [], driven: [] } as const;
  if (spoken !== protocolVersion) return { kind: "greeting", greeting: { version: spoken, ...unknown } };
  const [channels, longestLine] = [whole(channelsText), whole(longestText)];
  const groups = groupsText.split(",").map(groupIn);
  const driven = setIn(drivenText);
  const isOurs = words.length === 8 && namePattern.test(name) && (countName === "count" || countName === "tick");
  if (!isOurs || Number.isNaN(channels + longestLine) || groups.includes(null) || driven === null) return null;
  return {
    kind: "greeting",
    greeting: {
      version: spoken,
      name,
      countName,
      channels,
      longestLine,
      groups: groups as readonly ChannelGroup[],
      driven,
    },
  };
}

function groupIn(word: string): ChannelGroup | null {
  const [range = "", ...rest] = word.split(":");
  const ends = rangeIn(range);
  const numbers = numbersIn(rest.join(":"), 5);
  if (!ends || !numbers) return null;
  const [periodNs, lowestCount, atLowest, highestCount, atHighest] = numbers as [
    number,
    number,
    number,
    number,
    number,
  ];
  return { first: ends[0], last: ends[1], periodNs, lowestCount, atLowest, highestCount, atHighest };
}

/** One channel, or the first and the last of some: `3`, `0-7`. */
function rangeIn(text: string): readonly [number, number] | null {
  const ends = text.split("-").map(whole);
  const [first = Number.NaN, last = first] = ends;
  return ends.length <= 2 && first <= last ? [first, last] : null;
}

/** A set of channels: `-` for none, else channels and ranges parted by commas, ascending. */
function setIn(text: string): readonly number[] | null {
  if (text === "-") return [];
  const ranges = text.split(",").map(rangeIn);
  const channels: number[] = [];
  for (const range of ranges) {
    if (!range || range[0] <= (channels.at(-1) ?? -1) || range[1] > 65_535) return null;
    for (let channel = range[0]; channel <= range[1]; channel += 1) channels.push(channel);
  }
  return channels;
}

/** Channels, ascending, as `setIn` reads them. */
export function setWords(channels: readonly number[]): string {
  const ranges: [number, number][] = [];
  for (const channel of channels) {
    const last = ranges.at(-1);
    if (last && channel === last[1] + 1) last[1] = channel;
    else ranges.push([channel, channel]);
  }
  return ranges.length === 0 ? "-" : ranges.map(([from, to]) => (from === to ? `${from}` : `${from}-${to}`)).join(",");
}
