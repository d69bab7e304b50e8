import type { Joint } from "@core/project";
import { type JointBench, useJointBench } from "@stores/jointBench";
import { useSelectedJoint } from "@stores/selection";
import type { ReactNode } from "react";
import { Opened } from "./Opened";

interface SelectedJointProps {
  readonly children: (bench: JointBench) => ReactNode;
}

/** A station that is about the selected joint: opens the bench, and says what to do while there is no joint. */
export function SelectedJoint({ children }: SelectedJointProps) {
  return (
    <Opened isStation>
      <Selected>{children}</Selected>
    </Opened>
  );
}

function Selected({ children }: SelectedJointProps) {
  const joint = useSelectedJoint();
  if (!joint)
    return (
      <div className="sheet mx-auto mt-16 max-w-xl text-center">
        <h1 className="heading text-xl">There is no joint on this bench</h1>
        <p className="mt-2">
          Add one at the foot of the rack. Or open the demo, or a project file, from the project’s name at the top left.
        </p>
      </div>
    );
  // A new joint is a new view: nothing typed for one joint is ever taken for another.
  return (
    <Measured key={joint.id} joint={joint}>
      {children}
    </Measured>
  );
}

function Measured({ joint, children }: SelectedJointProps & { readonly joint: Joint }) {
  return children(useJointBench(joint));
}
