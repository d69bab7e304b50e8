import { type Board, type Encoding, frameHzOf, groupOf } from "@core/project";
import { countsMaker, percentMaker, pulseChipMaker } from "./dutyMakers";
import { periodUsOf } from "./frame";
import { linearMaker, type SignalMaker } from "./maker";
import { microsecondMaker, softwareMaker } from "./softwareMakers";
import { timerMaker } from "./timerMaker";

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

/** How a way of making signals makes them at a wished frame rate, in Hz. */
export function makerOf(encoding: Encoding, frameHz: number): SignalMaker {
  switch (encoding.kind) {
    case "percent":
      return percentMaker(encoding, frameHz);
    case "counts":
      return countsMaker(encoding, frameHz);
    case "pulseChip":
      return pulseChipMaker(encoding, frameHz);
    case "timer":
      return timerMaker(encoding, frameHz);
    case "microseconds":
      return microsecondMaker(encoding, frameHz);
    case "software":
      return softwareMaker(encoding, frameHz);
    case "bus":
      return linearMaker({
        unit: "tick",
        registerName: "tick",
        periodUs: periodUsOf(frameHz),
        gain: 1,
        offset: 0,
        // How far a tick may go is the family's matter, and the card's window's.
        lowestRegister: -(2 ** 31),
        highestRegister: 2 ** 31 - 1,
        rounding: "round",
      });
  }
}
