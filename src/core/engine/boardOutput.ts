import type { StagedChannel } from "@core/gate";
import type { Board, Joint } from "@core/project";
import { framePeriodsUs } from "@core/signal";

/** A tick this little early still counts as on time: timers are not exact. */
const toleranceMs = 0.5;

/** What goes to one board, and when. The arrays are written in place at every tick. */
export class BoardOutput {
  readonly boardId: string;
  readonly label: string;
  /** The channels that have a joint, ascending; `counts` stands in the same order. */
  readonly channels: Int32Array;
  /** NaN is no signal. */
  readonly counts: Float64Array;
  /** The board does not answer: nothing new may be asked of its joints. */
  isSilent = false;
  /** It has not said for some frames that it took what was sent: its joints stand still until it does. */
  isWaiting = false;
  /** Whether a frame is to be sent now. */
  isDue = false;
  nextFrameMs = Number.NaN;
  /** What the last stage must know of each channel, in the order of `channels`. */
  staged: readonly StagedChannel[] = [];
  readonly periodMs: number;

  constructor(board: Board, joints: readonly Joint[]) {
    this.boardId = board.id;
    this.label = board.label;
    const channels = joints.filter((joint) => joint.boardId === board.id).map((joint) => joint.channel);
    this.channels = Int32Array.from(channels).sort();
    this.counts = new Float64Array(channels.length).fill(Number.NaN);
    // One line carries all channels, so it goes as often as the fastest group repeats its frame.
    this.periodMs = Math.min(...framePeriodsUs(board)) / 1000;
  }

  /**
   * Says whether a frame is due at this moment and plans the next. Gives the number of frames that were missed:
   * they are left out, never sent in a burst afterwards.
   */
  schedule(nowMs: number): number {
    // None planned yet, or the clock was set back: from here on.
    if (!(this.nextFrameMs - nowMs <= 2 * this.periodMs)) this.nextFrameMs = nowMs;
    this.isDue = nowMs >= this.nextFrameMs - toleranceMs;
    if (!this.isDue) return 0;
    this.nextFrameMs += this.periodMs;
    if (this.nextFrameMs > nowMs) return 0;
    const missed = Math.floor((nowMs - this.nextFrameMs) / this.periodMs) + 1;
    this.nextFrameMs += missed * this.periodMs;
    return missed;
  }
}
