/** The version of the line protocol spoken here; see docs/link-protocol.md. */
export const protocolVersion = 1;

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
  readonly registerName: "count" | "tick";
  readonly channels: number;
  readonly highestRegister: number;
  /** The true period of the frame, one per group of channels. */
  readonly periodsNs: readonly number[];
  /** Channels that have a signal at this moment: 0 after a restart or after a silence that released them. */
  readonly drivenChannels: number;
}

/** A line from the host, as a board reads it. */
export type HostLine =
  | { readonly kind: "greet"; readonly version: number }
  | { readonly kind: "watchdog"; readonly sequence: number; readonly afterMs: number; readonly action: SilenceAction }
  | { readonly kind: "set"; readonly sequence: number; readonly channels: readonly (readonly [number, number])[] }
  | { readonly kind: "release"; readonly sequence: number };

/** A line from a board, as the host reads it. */
export type BoardLine =
  | { readonly kind: "greeting"; readonly greeting: Greeting }
  | { readonly kind: "done"; readonly sequence: number }
  | { readonly kind: "refused"; readonly sequence: number; readonly code: RefusalCode }
  | { readonly kind: "silenceActed"; readonly action: SilenceAction }
  | { readonly kind: "readings"; readonly readings: readonly Reading[] };

/** What a board reads of one servo: its position (a tick, or a converter's count) and the current it draws. */
export interface Reading {
  readonly channel: number;
  readonly position: number;
  readonly currentMa: number;
}

export const refusalCodes = ["check", "form", "range", "stale", "order"] as const;
export type RefusalCode = (typeof refusalCodes)[number];

const wholePattern = /^\d{1,10}$/;
const whole = (text: string | undefined): number => (text && wholePattern.test(text) ? Number(text) : Number.NaN);
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
  if (verb !== "S") return null;
  const channels: [number, number][] = [];
  for (const word of others) {
    const [channelText, registerText, ...rest] = word.split(":");
    const channel = whole(channelText);
    const register = whole(registerText);
    if (rest.length > 0 || Number.isNaN(channel + register)) return null;
    channels.push([channel, register]);
  }
  return { kind: "set", sequence, channels };
}

/** Reads the body of a board's line; null for anything else. */
export function readBoardLine(body: string): BoardLine | null {
  const words = body.split(" ");
  const [verb, first, second] = words;
  if (verb === "V") return readGreeting(words);
  if (verb === "T" && words.length === 2 && isSilenceAction(first)) return { kind: "silenceActed", action: first };
  if (verb === "P") return readReadings(words.slice(1));
  if (verb === "A" && words.length === 2) {
    const sequence = sequenceOf(first);
    return Number.isNaN(sequence) ? null : { kind: "done", sequence };
  }
  if (verb === "E" && words.length === 3) {
    const code = refusalCodes.find((known) => known === second);
    const sequence = whole(first);
    return code && !Number.isNaN(sequence) ? { kind: "refused", sequence, code } : null;
  }
  return null;
}

function readReadings(words: readonly string[]): BoardLine | null {
  const readings = words.map((word): Reading => {
    const [channel, position, currentMa, ...rest] = word.split(":");
    return {
      channel: rest.length > 0 ? Number.NaN : whole(channel),
      position: whole(position),
      currentMa: whole(currentMa),
    };
  });
  const isWhole = readings.every((one) => !Number.isNaN(one.channel + one.position + one.currentMa));
  return isWhole && readings.length > 0 ? { kind: "readings", readings } : null;
}

function readGreeting(words: readonly string[]): BoardLine | null {
  const [, version, name, registerName, channels, highestRegister, periodsNs, drivenChannels] = words;
  if (words.length < 2) return null;
  // A board of another version may greet in another form; its version is all that must be understood.
  const spoken = whole(version);
  if (Number.isNaN(spoken)) return null;
  const numbers = [whole(channels), whole(highestRegister), whole(drivenChannels)] as const;
  const periods = (periodsNs ?? "").split(",").map(whole);
  const isOurs = words.length === 8 && name && (registerName === "count" || registerName === "tick");
  if (spoken === protocolVersion && (!isOurs || [...numbers, ...periods].some(Number.isNaN))) return null;
  return {
    kind: "greeting",
    greeting: {
      version: spoken,
      name: name ?? "",
      registerName: registerName === "tick" ? "tick" : "count",
      channels: numbers[0],
      highestRegister: numbers[1],
      periodsNs: periods,
      drivenChannels: numbers[2],
    },
  };
}
