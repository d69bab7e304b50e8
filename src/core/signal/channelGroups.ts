import type { ChannelGroup } from "@core/link";
import type { Board } from "@core/project";
import { dequal } from "dequal";
import { channelMakersOf } from "./signalMaker";

/** A board's channels as its greeting tells of them: which share a frame, and what their counts mean, in ns or in ticks. */
export function channelGroupsOf(board: Board): readonly ChannelGroup[] {
  const groups: ChannelGroup[] = [];
  for (const [channel, maker] of channelMakersOf(board).entries()) {
    const last = groups.at(-1);
    const inUnit = (setPoint: number) => Math.max(0, Math.round(setPoint * (maker.unit === "count" ? 1000 : 1)));
    const group: ChannelGroup = {
      first: channel,
      last: channel,
      periodNs: Math.round(maker.periodUs * 1000),
      lowestCount: maker.lowestCount,
      atLowest: inUnit(maker.toSetPoint(maker.lowestCount)),
      highestCount: maker.highestCount,
      atHighest: inUnit(maker.toSetPoint(maker.highestCount)),
    };
    const isSame = last && dequal({ ...last, first: 0, last: 0 }, { ...group, first: 0, last: 0 });
    if (isSame) groups[groups.length - 1] = { ...last, last: channel };
    else groups.push(group);
  }
  return groups;
}
