import type { Joint } from "@core/project";
import { useJointBench } from "@stores/jointBench";
import { useSelectedJoint } from "@stores/selection";
import type { ComponentProps } from "react";
import { DialPanel } from "../dial/DialPanel";
import { FigurePicture } from "./FigurePicture";

interface WatchColumnProps {
  /** Where the dial of a joint is to aim instead of at the joint itself; none for most stations. */
  readonly aimOf?: (joint: Joint) => ComponentProps<typeof DialPanel>["aim"];
}

/** For stations that are about many joints: the whole scene, and under it the dial of the selected joint. */
export function WatchColumn({ aimOf }: WatchColumnProps) {
  const joint = useSelectedJoint();
  return (
    <div className="flex min-h-0 flex-col gap-2">
      <FigurePicture className="aspect-[12/7] w-full shrink-0 rounded-box" />
      {joint && <Watched key={joint.id} joint={joint} aim={aimOf?.(joint)} />}
    </div>
  );
}

interface WatchedProps {
  readonly joint: Joint;
  readonly aim: ComponentProps<typeof DialPanel>["aim"];
}

function Watched({ joint, aim }: WatchedProps) {
  const bench = useJointBench(joint);
  return (
    <>
      <h2 className="heading text-center">{joint.label}</h2>
      <DialPanel bench={bench} {...(aim && { aim })} className="grow" />
    </>
  );
}
