import { type Encoding, makerOf, newEncoding } from "@core/encodings";
import { type ChannelGroup, comparisonOf, type Greeting } from "@core/link";
import type { Board } from "@core/project";
import { channelGroupsOf } from "./channelGroups";

/**
 * The board as it says that it is: its channels, their frames, and a way of making signals with which every count means the pulse that the board
 * makes of it. The way it has is kept where it fits. Null for one that none of ours describes.
 */
export function boardAsSaid(board: Board, said: Greeting): Board | null {
  const [first] = said.groups;
  if (!first || said.countName !== "count" || said.channels < 1 || said.channels > 254) return null;
  const groups = frameGroups(said.groups, said.channels);
  if (!groups) return null;
  const frameHz = groups.map((group) => 1e9 / group.periodNs);
  for (const encoding of [board.encoding, ...candidates(first)]) {
    const described: Board = { ...board, channels: said.channels, frameHz, encoding };
    const expected = {
      label: board.label,
      countName: makerOf(encoding, frameHz[0] ?? 50).unit,
      channels: said.channels,
      groups: channelGroupsOf(described),
    };
    if (comparisonOf(expected, said).every((line) => !line.isApart)) return described;
  }
  return null;
}

/** Ways of making signals that count like this group does: from nothing, in even steps. */
function candidates({ periodNs, highestCount, atLowest, lowestCount, atHighest }: ChannelGroup): readonly Encoding[] {
  const stepNs = (atHighest - atLowest) / (highestCount - lowestCount);
  const bits = Math.round(Math.log2(highestCount + 1));
  return [
    { ...newEncoding("microseconds"), tickUs: stepNs / 1000 },
    { ...newEncoding("counts"), bits },
    { ...newEncoding("counts"), bits, fullScale: "2^n-1" },
    {
      ...newEncoding("pulseChip"),
      bits,
      oscillatorHz: Math.round((2 ** bits * 1e9) / periodNs),
    },
  ];
}

/** Channels in groups of one size, each with its frame, as a project has them; null where they are not. */
function frameGroups(groups: readonly ChannelGroup[], channels: number): readonly ChannelGroup[] | null {
  if (groups.every((group) => group.periodNs === groups[0]?.periodNs)) return groups.slice(0, 1);
  const size = Math.ceil(channels / groups.length);
  return groups.every((group, at) => group.first === at * size) ? groups : null;
}
