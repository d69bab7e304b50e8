import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { useState } from "react";
import { Fetched } from "../parts/Fetched";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { lazily } from "../parts/lazily";
import { SelectedJoint } from "../parts/SelectedJoint";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { PositionTool } from "./PositionTool";

// Each is loaded when it is first chosen; only the position itself belongs to the first sight of the page.
const tools = {
  Position: PositionTool,
  Working: lazily(() => import("./WorkingTool")),
  Board: lazily(() => import("./BoardTool")),
  "Timer planner": lazily(() => import("./TimerTool")),
  "Side by side": lazily(() => import("./SideBySideTool")),
  Sweep: lazily(() => import("./SweepTool")),
  Wobble: lazily(() => import("./WobbleTool")),
  Waveform: lazily(() => import("./WaveformTool")),
  "What unit?": lazily(() => import("./UnitTool")),
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
      <TabStrip
        label="Tools"
        tabs={toolNames.map((one) => [one, one] as const)}
        chosen={name}
        onChoose={onName}
        panelId="signal-tool"
        className="mb-3 print:hidden"
      />
      <TabPanel id="signal-tool" tab={name} className="min-h-0 grow">
        <Fetched fallback={<p className="caption">Fetching the tool…</p>}>
          <Tool bench={bench} target={target} onTarget={setTarget} />
        </Fetched>
      </TabPanel>
    </div>
  );
}
