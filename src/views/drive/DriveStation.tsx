import type { JointBench } from "@stores/jointBench";
import { command } from "@stores/live";
import { DialPanel } from "../dial/DialPanel";
import { FigurePicture } from "../figure/FigurePicture";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JogPad } from "../parts/JogPad";
import { JointHead } from "../parts/JointHead";
import { LimitsPanel } from "../parts/LimitsPanel";
import { SelectedJoint } from "../parts/SelectedJoint";
import { WrongButton } from "../parts/WrongButton";
import { AskField } from "./AskField";

/** Move one joint safely, by hand, and watch it. */
export default function DriveStation() {
  return <SelectedJoint>{(bench) => <Drive bench={bench} />}</SelectedJoint>;
}

function Drive({ bench }: { readonly bench: JointBench }) {
  const { joint, map } = bench;
  const jog = (by: number) => command({ kind: "jog", jointId: joint.id, by, in: "target" });
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title="by hand">
        <WrongButton />
        <HoldSwitch joint={joint} />
        <button
          type="button"
          className="btn btn-sm btn-outline"
          title="Send it home (G)"
          onClick={() => command({ kind: "home", jointId: joint.id })}
        >
          Go home
        </button>
      </JointHead>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_21rem] gap-5">
        <DialPanel bench={bench} />
        <div className="flex min-h-0 flex-col gap-3">
          <section className="sheet p-3" aria-label="Ask and jog">
            <AskField bench={bench} />
            <div className="mt-2">
              <JogPad unit={map.targetUnit} onJog={jog} />
            </div>
          </section>
          <LimitsPanel bench={bench} />
          <FigurePicture className="min-h-0 w-full grow rounded-box" />
        </div>
      </div>
    </div>
  );
}
