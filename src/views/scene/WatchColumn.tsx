import type { Joint } from "@core/project";
import { useJointBench } from "@stores/jointBench";
import { useSelectedJoint } from "@stores/selection";
import { DialPanel } from "../dial/DialPanel";
import { Greenhouse } from "./Greenhouse";

/** For stations that are about many joints: the whole scene, and under it the dial of the selected joint. */
export function WatchColumn() {
  const joint = useSelectedJoint();
  return (
    <div className="flex min-h-0 flex-col gap-2">
      <Greenhouse className="aspect-[12/7] w-full shrink-0 rounded-box" />
      {joint && <Watched key={joint.id} joint={joint} />}
    </div>
  );
}

function Watched({ joint }: { readonly joint: Joint }) {
  const bench = useJointBench(joint);
  return (
    <>
      <h2 className="heading text-center">{joint.label}</h2>
      <DialPanel bench={bench} className="grow" />
    </>
  );
}
