import type { JointBench } from "@stores/jointBench";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { SelectedJoint } from "../parts/SelectedJoint";
import { CalibrationList } from "./CalibrationList";
import { HornView } from "./HornView";
import { NeutralBench } from "./NeutralBench";
import { TwoPointBench } from "./TwoPointBench";

/** Find the true angle of each servo and keep the numbers on its card. */
export default function CalibrateStation() {
  return <SelectedJoint>{(bench) => <Calibrate bench={bench} />}</SelectedJoint>;
}

function Calibrate({ bench }: { readonly bench: JointBench }) {
  const isContinuous = bench.card.kind === "continuous";
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title={isContinuous ? "finds its neutral" : "by two points"}>
        <HoldSwitch joint={bench.joint} />
      </JointHead>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_27rem] gap-5">
        <figure className="flex min-h-0 flex-col">
          <HornView bench={bench} className="min-h-0 w-full grow" />
          <figcaption className="caption text-center">
            The simulated servo from above. Read the red line of the horn against the protractor, as you would a real
            one.
          </figcaption>
        </figure>
        <div className="min-h-0 space-y-3 overflow-y-auto pr-1">
          {isContinuous ? <NeutralBench bench={bench} /> : <TwoPointBench bench={bench} />}
          <CalibrationList bench={bench} />
        </div>
      </div>
    </div>
  );
}
