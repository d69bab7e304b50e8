import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { lazy, Suspense, useState } from "react";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { SelectedJoint } from "../parts/SelectedJoint";
import { PositionTool } from "./PositionTool";

// Each is loaded when it is first chosen; only the position itself belongs to the first sight of the page.
const tools = {
  Position: PositionTool,
  Working: lazy(() => import("./WorkingTool")),
  Board: lazy(() => import("./BoardTool")),
  "Timer planner": lazy(() => import("./TimerTool")),
  "Side by side": lazy(() => import("./SideBySideTool")),
  Sweep: lazy(() => import("./SweepTool")),
  Wobble: lazy(() => import("./WobbleTool")),
  Waveform: lazy(() => import("./WaveformTool")),
  "What unit?": lazy(() => import("./UnitTool")),
} as const;
type ToolName = keyof typeof tools;
const toolNames = Object.keys(tools) as ToolName[];
const place = "vantel.signalTool";

/** Which number gives this angle on this board, and what will really come out. */
export default function SignalStation() {
  const [name, setName] = useState<ToolName>(
    () => toolNames.find((known) => known === sessionStorage.getItem(place)) ?? "Position",
  );
  const choose = (chosen: ToolName) => {
    sessionStorage.setItem(place, chosen);
    setName(chosen);
  };
  return <SelectedJoint>{(bench) => <Signal bench={bench} name={name} onName={choose} />}</SelectedJoint>;
}

interface SignalProps {
  readonly bench: JointBench;
  readonly name: ToolName;
  readonly onName: (name: ToolName) => void;
}

function Signal({ bench, name, onName }: SignalProps) {
  const { joint, map } = bench;
  const [target, setTarget] = useState(() => {
    const now = liveJoint(joint.id, "target");
    return Number.isFinite(now) ? now : map.homeTarget;
  });
  const Tool = tools[name];
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title="as a signal">
        <HoldSwitch joint={joint} />
      </JointHead>
      {/* biome-ignore lint/a11y/useSemanticElements: a fieldset brings a frame that these have not. */}
      <div
        role="group"
        aria-label="Tools"
        className="mb-3 flex flex-wrap gap-x-1 border-b border-base-300 print:hidden"
      >
        {toolNames.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === name}
            className={`-mb-px cursor-pointer border-b-2 px-2.5 pb-1 text-[0.92rem] ${one === name ? "border-primary font-semibold text-primary" : "border-transparent hover:border-base-content/40"}`}
            onClick={() => onName(one)}
          >
            {one}
          </button>
        ))}
      </div>
      <div className="min-h-0 grow">
        <Suspense fallback={<p className="caption">Fetching the tool…</p>}>
          <Tool bench={bench} target={target} onTarget={setTarget} />
        </Suspense>
      </div>
    </div>
  );
}
