import type { JointBench } from "@stores/jointBench";
import { calibrateTabs, openTab, stationTabs, type TabOf, useOpenTab } from "@stores/stationTabs";
import { useIsReal } from "@stores/wires";
import { CalibrationList } from "../cards/CalibrationList";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { SelectedJoint } from "../parts/SelectedJoint";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { CheckBench } from "./CheckBench";
import { EndStopBench } from "./EndStopBench";
import { HornView } from "./HornView";
import { LimitsBench } from "./LimitsBench";
import { PointsBench } from "./PointsBench";
import { ProtractorChoice } from "./ProtractorChoice";
import { ReadBench } from "./ReadBench";
import { RestBench } from "./RestBench";
import { SpeedBench } from "./SpeedBench";

/** Find the end stops and the true angle of each servo; keep the numbers on its card. */
export default function CalibrateStation() {
  return <SelectedJoint>{(bench) => <Calibrate bench={bench} />}</SelectedJoint>;
}

type Tab = TabOf<"calibrate">;

function Calibrate({ bench }: { readonly bench: JointBench }) {
  const tabs = calibrateTabs(bench.card);
  const isReal = useIsReal(bench.board);
  const chosen = useOpenTab("calibrate");
  const tab = tabs.includes(chosen) ? chosen : (tabs[0] as Tab);
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title="measured">
        <TabStrip
          label="What to find"
          tabs={tabs.map((one) => [one, stationTabs.calibrate[one]] as const)}
          chosen={tab}
          onChoose={(next) => openTab("calibrate", next)}
          panelId="calibrate-part"
        />
        <a className="btn btn-sm btn-outline" href={`/cards?card=${bench.card.id}`}>
          Card file
        </a>
        <HoldSwitch joint={bench.joint} />
      </JointHead>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_27rem] gap-5">
        <figure className="flex min-h-0 flex-col">
          <HornView bench={bench} className="min-h-0 w-full grow" />
          <figcaption className="caption space-y-1 text-center">
            <p>
              {isReal
                ? `${bench.board.label} is on a real wire: read the horn of your own servo against a protractor. It is drawn here only where its board reads it.`
                : "The simulated servo from above. Read the red line of the horn against the protractor, as you would a real one."}
            </p>
            <ProtractorChoice bench={bench} />
          </figcaption>
        </figure>
        <div className="min-h-0 space-y-3 overflow-y-auto shows-more pr-1">
          <TabPanel id="calibrate-part" tab={tab} className="space-y-3">
            <TabBench tab={tab} bench={bench} />
          </TabPanel>
          <CalibrationList card={bench.card} />
        </div>
      </div>
    </div>
  );
}

function TabBench({ tab, bench }: { readonly tab: Tab; readonly bench: JointBench }) {
  const { card, joint } = bench;
  if (card.kind === "continuous")
    return tab === "speed" ? <SpeedBench bench={bench} card={card} /> : <RestBench bench={bench} card={card} />;
  switch (tab) {
    case "check":
      return <CheckBench bench={bench} card={card} />;
    case "limits":
      return joint.axis.kind === "angle" ? <LimitsBench bench={bench} card={card} axis={joint.axis} /> : null;
    case "read":
      return <ReadBench bench={bench} card={card} />;
    case "stops":
      return <EndStopBench bench={bench} />;
    default:
      return <PointsBench bench={bench} card={card} />;
  }
}
