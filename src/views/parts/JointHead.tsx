import { calibrationInForce } from "@core/servo";
import type { JointBench } from "@stores/jointBench";
import type { ReactNode } from "react";
import { formatDate } from "./format";

interface JointHeadProps {
  readonly bench: JointBench;
  /** What this station does, after the joint's name. */
  readonly title: string;
  readonly children?: ReactNode;
}

/** The head of a station: which joint it is about, what drives it, and whether its angles can be believed. */
export function JointHead({ bench: { joint, card, board }, title, children }: JointHeadProps) {
  const made = calibrationInForce(card);
  return (
    <header className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1 className="min-w-0 text-[1.45rem] leading-none font-bold tracking-tight wrap-anywhere">
        {joint.label} <span className="font-normal opacity-75">{title}</span>
      </h1>
      <p className="caption">
        {card.label}, {board.label} {card.kind === "smart" ? "id" : "channel"} {joint.channel},{" "}
        {made ? `calibrated ${formatDate(made.madeAt)}` : "by its data sheet only: not calibrated"}
      </p>
      {children && <div className="ml-auto flex items-center gap-2">{children}</div>}
    </header>
  );
}
