import type { JointBench } from "@stores/jointBench";
import { useState } from "react";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { SelectedJoint } from "../parts/SelectedJoint";
import { CalibrationList } from "./CalibrationList";
import { EndStopBench } from "./EndStopBench";
import { HornView } from "./HornView";
import { NeutralBench } from "./NeutralBench";
import { PointsBench } from "./PointsBench";

/** Find the end stops and the true angle of each servo; keep the numbers on its card. */
export default function CalibrateStation() {
  return <SelectedJoint>{(bench) => <Calibrate bench={bench} />}</SelectedJoint>;
}

const parts = ["Angles", "End stops"] as const;
type Part = (typeof parts)[number];

function Calibrate({ bench }: { readonly bench: JointBench }) {
  const [part, setPart] = useState<Part>("Angles");
  const isContinuous = bench.card.kind === "continuous";
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title={isContinuous ? "finds its neutral" : "measured"}>
        {!isContinuous && (
          // biome-ignore lint/a11y/useSemanticElements: a fieldset brings a frame that this switch has not.
          <div className="join" role="group" aria-label="What to find">
            {parts.map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={one === part}
                className={`btn btn-sm join-item ${one === part ? "btn-neutral" : "btn-outline"}`}
                onClick={() => setPart(one)}
              >
                {one}
              </button>
            ))}
          </div>
        )}
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
          {isContinuous ? (
            <NeutralBench bench={bench} />
          ) : part === "Angles" ? (
            <PointsBench bench={bench} />
          ) : (
            <EndStopBench bench={bench} />
          )}
          <CalibrationList bench={bench} />
        </div>
      </div>
    </div>
  );
}
