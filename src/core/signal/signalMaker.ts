import { makerOf, type SignalMaker } from "@core/encodings";
import { type Board, frameHzOf, groupOf } from "@core/project";

/** How this board makes the signal of one of its channels. */
export function signalMakerOf(board: Board, channel = 0): SignalMaker {
  return makerOf(board.encoding, frameHzOf(board, channel));
}

/** The makers of all of a board's channels; those of one group are one and the same. */
export function channelMakersOf(board: Board): readonly SignalMaker[] {
  const groups = board.frameHz.map((frameHz) => makerOf(board.encoding, frameHz));
  return Array.from({ length: board.channels }, (_, channel) => groups[groupOf(board, channel)] as SignalMaker);
}

/** The true period of the frame in each of a board's groups of channels, in µs. */
export const framePeriodsUs = (board: Board): readonly number[] =>
  board.frameHz.map((frameHz) => makerOf(board.encoding, frameHz).periodUs);
