import type { ChannelGroup, Greeting } from "./messages";
import { protocolVersion } from "./messages";

/** What the project says the board at the other end is. A board that is not so gets no signals. */
export interface DescribedBoard {
  readonly label: string;
  readonly countName: "count" | "tick";
  readonly channels: number;
  readonly groups: readonly ChannelGroup[];
  /** The longest line that a frame of all its joints may take, in bytes; missing where nobody asks. */
  readonly frameBytes?: number;
}

/** One thing that a board says of itself, beside what the project says of it. */
export interface ComparedLine {
  readonly what: string;
  readonly said: string;
  readonly described: string;
  readonly isApart: boolean;
}

const frameWords = (group: ChannelGroup | undefined) => (group ? `${(group.periodNs / 1e6).toFixed(3)} ms` : "nothing");
function madeWords(group: ChannelGroup | undefined, countName: string): string {
  if (!group) return "nothing";
  const [scale, unit] = countName === "count" ? [1000, "µs"] : [1, "ticks"];
  const shown = (value: number) => (value / scale).toFixed(scale === 1 ? 0 : 1);
  return `${group.lowestCount} to ${group.highestCount} make ${shown(group.atLowest)} to ${shown(group.atHighest)} ${unit}`;
}

/** Whether a frame of all its joints is longer than what the board takes. */
export const isTooLong = ({ frameBytes = 0 }: DescribedBoard, { longestLine }: Greeting): boolean =>
  frameBytes > longestLine;

/** Whether counts in the two mean other pulses. The span in which both ends lie is what half a per cent is of: one end may be a pulse of nothing. */
function isMadeApart(theirs: ChannelGroup, ours: ChannelGroup): boolean {
  const span = Math.abs(ours.atHighest - ours.atLowest);
  const isOff = (one: number, other: number) => Math.abs(one - other) > mostApart * span;
  return (
    theirs.lowestCount !== ours.lowestCount ||
    theirs.highestCount !== ours.highestCount ||
    isOff(theirs.atLowest, ours.atLowest) ||
    isOff(theirs.atHighest, ours.atHighest)
  );
}

/** What a board says of itself beside what the project says of it, line by line. */
export function comparisonOf(described: DescribedBoard, said: Greeting): readonly ComparedLine[] {
  const lines: ComparedLine[] = [
    line("speaks version", said.version, protocolVersion, said.version !== protocolVersion),
    line("is called", said.name, described.label, false),
    line("takes", `${said.countName}s`, `${described.countName}s`, said.countName !== described.countName),
    line("channels", said.channels, described.channels, said.channels < described.channels),
    line(
      "takes lines of",
      `${said.longestLine} bytes`,
      `${described.frameBytes ?? 0} bytes, for a frame`,
      isTooLong(described, said),
    ),
  ];
  for (const ours of described.groups) {
    const theirs = said.groups.find((group) => group.first <= ours.first && ours.first <= group.last);
    const name = ours.first === ours.last ? `channel ${ours.first}` : `channels ${ours.first} to ${ours.last}`;
    lines.push(
      line(`${name}: frame`, frameWords(theirs), frameWords(ours), !theirs || isApart(theirs.periodNs, ours.periodNs)),
      line(
        `${name}: counts`,
        madeWords(theirs, said.countName),
        madeWords(ours, described.countName),
        !theirs || isMadeApart(theirs, ours),
      ),
    );
  }
  return lines;
}

const line = (what: string, said: string | number, described: string | number, apart: boolean): ComparedLine => ({
  what,
  said: String(said),
  described: String(described),
  isApart: apart,
});

export const versionWords = (label: string, version: number): string =>
  `${label} speaks version ${version} of the link; this bench speaks version ${protocolVersion}. Load a fitting sketch onto the board.`;

/** Why this board must not be driven as the project describes it, or null when it may be. */
export function mismatchOf(expected: DescribedBoard, greeting: Greeting): string | null {
  const { label } = expected;
  if (greeting.version !== protocolVersion) return versionWords(label, greeting.version);
  if (greeting.countName !== expected.countName)
    return `${label} takes ${greeting.countName}s, but the project drives it in ${expected.countName}s. Change the board's kind in the project.`;
  if (greeting.channels < expected.channels)
    return `${label} has ${greeting.channels} channels, but the project uses ${expected.channels}.`;
  if (isTooLong(expected, greeting))
    return `${label} takes lines of ${greeting.longestLine} bytes, but a frame of all its joints may have ${expected.frameBytes}. Wire fewer joints to it, or build its program for longer lines.`;
  for (let channel = 0; channel < expected.channels; channel += 1) {
    const [theirs, ours] = [greeting, expected].map(({ groups }) =>
      groups.find((group) => group.first <= channel && channel <= group.last),
    );
    if (!ours) continue;
    const sentence = theirs
      ? differenceOf(label, theirs, ours)
      : `${label} does not say what its channel ${channel} does.`;
    if (sentence) return `${sentence} Make the two agree.`;
  }
  return null;
}

/** Half a per cent of a 2000 µs pulse is 10 µs, about a degree: beyond that something is set wrongly. */
const mostApart = 0.005;
const isApart = (one: number, other: number) => Math.abs(one - other) > mostApart * Math.max(Math.abs(other), 1);

/** In what a group of channels differs from what the project says of it; null where every pulse will be right. */
function differenceOf(label: string, theirs: ChannelGroup, ours: ChannelGroup): string | null {
  if (isApart(theirs.periodNs, ours.periodNs))
    return `${label} repeats its frame every ${theirs.periodNs / 1000} µs, but the project says ${ours.periodNs / 1000} µs: every pulse would be wrong.`;
  if (theirs.highestCount !== ours.highestCount || theirs.lowestCount !== ours.lowestCount)
    return `${label} counts from ${theirs.lowestCount} to ${theirs.highestCount}, but the project says ${ours.lowestCount} to ${ours.highestCount}: every pulse would be wrong.`;
  if (isMadeApart(theirs, ours))
    return `${label} makes ${theirs.atHighest} of its count ${theirs.highestCount}, but the project says ${ours.atHighest}: every pulse would be wrong.`;
  return null;
}
