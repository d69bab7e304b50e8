import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { openTab, type TabOf, tabsOf, useOpenTab } from "@stores/stationTabs";
import { type ComponentType, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { lazily } from "../parts/lazily";
import { SelectedJoint } from "../parts/SelectedJoint";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { PositionTool } from "./PositionTool";
import type { SignalToolProps } from "./toolProps";

// Each is loaded when it is first chosen; only the position itself belongs to the first sight of the page.
const tools: Readonly<Record<TabOf<"signal">, ComponentType<SignalToolProps>>> = {
  position: PositionTool,
  working: lazily(() => import("./WorkingTool")),
  board: lazily(() => import("./BoardTool")),
  timer: lazily(() => import("./TimerTool")),
  compare: lazily(() => import("./SideBySideTool")),
  sweep: lazily(() => import("./SweepTool")),
  wobble: lazily(() => import("./WobbleTool")),
  waveform: lazily(() => import("./WaveformTool")),
  unit: lazily(() => import("./UnitTool")),
};

/** Which number gives this angle on this board, and what will really come out. */
export default function SignalStation() {
  return <SelectedJoint>{(bench) => <Signal bench={bench} />}</SelectedJoint>;
}

function Signal({ bench }: { readonly bench: JointBench }) {
  const { joint, map } = bench;
  const [target, setTarget] = useState(() => {
    const now = liveJoint(joint.id, "target");
    return Number.isFinite(now) ? now : map.homeTarget;
  });
  const tab = useOpenTab("signal");
  const Tool = tools[tab];
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title="as a signal">
        <HoldSwitch joint={joint} />
      </JointHead>
      <TabStrip
        label="Tools"
        tabs={tabsOf("signal")}
        chosen={tab}
        onChoose={(next) => openTab("signal", next)}
        panelId="signal-tool"
        className="mb-3 print:hidden"
      />
      <TabPanel id="signal-tool" tab={tab} className="min-h-0 grow">
        <Fetched fallback={<p className="caption">Fetching the tool…</p>}>
          <Tool bench={bench} target={target} onTarget={setTarget} />
        </Fetched>
      </TabPanel>
    </div>
  );
}
