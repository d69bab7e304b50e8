import { encodingProblems, makerOf } from "@core/encodings";
import { figure } from "@core/numbers";
import { type Board, frameHzOf, type ServoCard, setPointUnit } from "@core/project";
import type { JointBench } from "@core/rig";

/** An error of arithmetic, and no set point outside of anything. */
const tiny = 1e-6;
/** A card without a deadband has not been looked at: no servo notices less than about this. */
const leastDeadbandUs = 1;
const whole = (value: number) => value.toFixed(0);
const short = (value: number) => figure(value, 2);

/** Why this position must not be sent, each with what would work. An empty list means that all is well. */
export function positionProblems({ joint, card, map, maker }: JointBench, target: number): readonly string[] {
  const unit = setPointUnit(card);
  const setPoint = map.toSetPoint(target);
  const { low, high } = card.window;
  const problems: string[] = [];
  if (target < map.lowTarget || target > map.highTarget)
    problems.push(
      `This is past the travel of ${joint.label}. Ask for ${short(map.lowTarget)} to ${short(map.highTarget)}, or widen its limits at Drive.`,
    );
  if (setPoint < low - tiny || setPoint > high + tiny)
    problems.push(
      `${short(setPoint)} ${unit} lies outside the hard window of this servo. It takes ${low} to ${high} ${unit}.`,
    );
  if (unit === "µs" && setPoint >= maker.periodUs)
    problems.push(
      `A pulse of ${whole(setPoint)} µs does not fit into a frame of ${whole(maker.periodUs)} µs. Ask for a shorter pulse, or at most ${short(1e6 / (setPoint * 1.2))} Hz.`,
    );
  return problems;
}

/** Why a board at these settings cannot drive this servo well, each with what would work. */
export function boardProblems(board: Board, card: ServoCard, channel: number): readonly string[] {
  if (board.encoding.kind === "bus") return [];
  const askedHz = frameHzOf(board, channel);
  const { encoding } = board;
  const maker = makerOf(encoding, askedHz);
  const trueHz = 1e6 / maker.periodUs;
  const problems: string[] = [];
  const { low, high } = card.frameHz;
  if (trueHz < low * 0.995 || trueHz > high * 1.005)
    problems.push(
      `${card.label} accepts ${low} to ${high} Hz; ${board.label} would send ${short(trueHz)} Hz. ${trueHz > high ? "Many servos hum, heat up or run to an end at that rate" : "The servo would twitch between pulses"}. Ask for ${short(Math.min(Math.max(50, low), high))} Hz.`,
    );
  if (maker.periodUs <= card.window.high)
    problems.push(
      `At ${short(trueHz)} Hz a frame lasts ${whole(maker.periodUs)} µs, but this servo's pulses reach ${card.window.high} µs. Stay below ${whole(1e6 / (card.window.high * 1.2))} Hz.`,
    );
  problems.push(...encodingProblems(encoding, askedHz));
  if (maker.step > Math.max(card.deadband, leastDeadbandUs) * 5)
    problems.push(
      `One step is ${short(maker.step)} µs, many times ${card.deadband > 0 ? `this servo's deadband of ${card.deadband} µs` : "what a servo notices"}: it will move in visible jumps. Take more bits.`,
    );
  return problems;
}
