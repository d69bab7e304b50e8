import { longestTakeFrames } from "@core/project";
import { problem, type Result } from "@core/result";
import { type Recorded, Recorder } from "@core/take";
import type { Command } from "./commands";
import { isMovable, type LiveJoint } from "./liveJoint";

export type RecordCommand = Extract<Command, { kind: "record" }>;

/** From one sample of a take to the next: the usual frame of a hobby servo. */
const takeFrameMs = 20;

/** See `head.recording`. */
export const recordingStages = { none: 0, leadIn: 1, countIn: 2, running: 3 } as const;

/** A recording under way. It waits until the others stand where it begins (the lead-in), counts in, and runs. */
export class Taking {
  readonly command: RecordCommand;
  readonly #joints: readonly number[];
  readonly #recorder: Recorder;
  readonly #targets: Float64Array;
  #stage: "leadIn" | "countIn" | "running" = "leadIn";
  #countInMs: number;
  #isOutside: boolean;

  /** @param joints the places in the row of the joints that the command names */
  constructor(command: RecordCommand, joints: readonly number[], row: readonly LiveJoint[]) {
    const { punch, fromMs } = command;
    this.command = command;
    this.#joints = joints;
    this.#recorder = new Recorder(command.jointIds, punch ? punch.fromMs : fromMs, takeFrameMs, longestTakeFrames);
    this.#targets = Float64Array.from(joints, (joint) => row[joint]?.passage.target ?? 0);
    this.#countInMs = command.countInMs;
    this.#isOutside = punch !== null && fromMs < punch.fromMs;
  }

  /** Whether this joint is recorded now. Outside the part that is to be replaced it is played as it was. */
  arms(joint: number): boolean {
    return !this.#isOutside && this.#joints.includes(joint);
  }

  /** Lets time pass while the routine stands where it is to begin. Gives true at the moment when it begins to run. */
  countIn(dtMs: number): boolean {
    if (this.#stage === "running") return false;
    if (this.#stage === "leadIn") this.#stage = "countIn";
    else this.#countInMs -= dtMs;
    if (this.#countInMs > 0) return false;
    this.#countInMs = 0;
    this.#stage = "running";
    return true;
  }

  /** At the beginning of the part that is to be replaced: the joints that are to be moved by somebody else from here on. */
  punchIn(atMs: number): readonly number[] {
    const { punch } = this.command;
    if (!this.#isOutside || !punch || atMs < punch.fromMs) return [];
    this.#isOutside = false;
    return this.#joints;
  }

  /** Writes down where the joints are, as the gate let it through or as a hand turned them. Gives true when it is over. */
  listen(row: readonly LiveJoint[], atMs: number): boolean {
    if (this.#stage !== "running" || this.#isOutside) return false;
    const { byHand, punch } = this.command;
    for (const [at, joint] of this.#joints.entries()) {
      const live = row[joint];
      const target = (byHand ? live?.toSeen?.(live.reading) : live?.passage.target) ?? Number.NaN;
      // One that was not heard for a moment stays where it was.
      if (Number.isFinite(target)) this.#targets[at] = target;
    }
    this.#recorder.take(atMs - this.#recorder.fromMs, this.#targets);
    return this.#recorder.isFull || (punch !== null && atMs >= punch.toMs);
  }

  get recorded(): Recorded | null {
    return this.#recorder.finish();
  }

  get lengthMs(): number {
    return this.#recorder.lengthMs;
  }

  get stage(): number {
    return recordingStages[this.#stage];
  }

  /** What is left of the count-in; null when it does not count. */
  get countInMs(): number | null {
    return this.#stage === "countIn" ? this.#countInMs : null;
  }
}

/** Why these joints cannot be recorded; null where they can. */
export function recordRefusal(
  { byHand }: RecordCommand,
  row: readonly LiveJoint[],
  joints: readonly number[],
): Result<null> | null {
  if (joints.length === 0 || joints.includes(-1)) return problem("Choose the joints that are to be recorded.");
  return byHand ? handRefusal(row, joints) : limpRefusal(row, joints);
}

function limpRefusal(row: readonly LiveJoint[], joints: readonly number[]): Result<null> | null {
  const limp = joints.find((joint) => !isMovable(row[joint]));
  return limp === undefined
    ? null
    : problem(`${row[limp]?.joint.label} is released: there is nothing to record. Hold it first (H).`);
}

/** A hand cannot turn what is held, and what cannot be read leaves nothing to write down. */
function handRefusal(row: readonly LiveJoint[], joints: readonly number[]): Result<null> | null {
  for (const joint of joints) {
    const live = row[joint];
    if (!live?.toSeen || Number.isNaN(live.reading))
      return problem(`${live?.joint.label} cannot be read: a hand’s movement of it leaves nothing to record.`);
    if (live.hands.isHeld)
      return problem(`${live.joint.label} is held, and stronger than a hand. Release it first (H).`);
  }
  return null;
}
