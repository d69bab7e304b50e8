import type { JointBench } from "@stores/jointBench";

/** What a tool of this station gets: the joint with its servo and board, and the position that is being worked out. */
export interface SignalToolProps {
  readonly bench: JointBench;
  readonly target: number;
  readonly onTarget: (target: number) => void;
}
