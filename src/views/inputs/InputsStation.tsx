import { jointOfLead, withPartners } from "@core/project";
import { useProject } from "@stores/document";
import { setTesting, useInputs } from "@stores/inputsView";
import { useSelectedJoint } from "@stores/selection";
import { openTab, tabsOf, useOpenTab } from "@stores/stationTabs";
import { useEffect, useRef } from "react";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import { Opened } from "../parts/Opened";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { ChainEditor } from "./ChainEditor";
import { ControlPanel } from "./ControlPanel";
import { LeadLine } from "./LeadLine";
import { SeenPanel } from "./SeenPanel";
import { SourceCard } from "./SourceCard";
import { AddSource, Wiring } from "./Wiring";

const LogPanel = lazily(async () => ({ default: (await import("./LogPanel")).LogPanel }));

/** From knobs, sticks and sensors to joints: sources at the left, leads as lines, and the open lead beneath them. */
export default function InputsStation() {
  return (
    <Opened isStation>
      <Inputs />
    </Opened>
  );
}

function Inputs() {
  const sources = useProject((project) => project.sources);
  const leads = useProject((project) => project.leads);
  const joints = useProject((project) => project.joints);
  const selected = useSelectedJoint();
  const openId = useInputs((view) => view.leadId);
  const isTesting = useInputs((view) => view.isTesting);
  const isSolo = useInputs((view) => view.soloLeadId !== null || view.soloSourceId !== null);
  const tab = useOpenTab("inputs");
  const lead =
    leads.find((one) => one.id === openId) ?? leads.find((one) => jointOfLead(one) === selected?.id) ?? leads[0];
  const source = sources.find((one) => one.id === lead?.sourceId);
  const list = useRef<HTMLUListElement>(null);
  const known = useRef(sources.length);
  // One that has just been added is the last, and comes into view.
  useEffect(() => {
    if (sources.length > known.current) list.current?.lastElementChild?.scrollIntoView({ block: "nearest" });
    known.current = sources.length;
  }, [sources.length]);
  const joint = joints.find((one) => one.id === (lead && jointOfLead(lead))) ?? selected;
  return (
    <div className="flex h-full flex-col">
      <header className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <h1 className="text-[1.45rem] leading-none font-bold tracking-tight">Inputs</h1>
        <label className="flex cursor-pointer items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="toggle toggle-sm"
            checked={isTesting}
            onChange={(event) => setTesting(event.target.checked)}
          />
          test: work everything out, move nothing
        </label>
        {isSolo && <span className="text-sm font-semibold text-warning">Solo: only the one that is lit moves.</span>}
        <div className="ml-auto">
          <Wiring />
        </div>
      </header>
      <div className="grid min-h-0 grow grid-cols-[17rem_minmax(0,1fr)] gap-5">
        <section className="flex min-h-0 flex-col" aria-label="Sources">
          <ul ref={list} className="min-h-0 grow overflow-y-auto shows-more pr-1">
            {withPartners(sources).map(([one, partner]) => (
              <SourceCard key={one.id} source={one} partner={partner} />
            ))}
            {sources.length === 0 && (
              <li className="caption p-2">Nothing to turn or press yet. Add a knob to begin with.</li>
            )}
          </ul>
          <div className="pt-2">
            <AddSource />
          </div>
        </section>
        <div className="flex min-h-0 flex-col gap-3">
          <ul className="max-h-44 shrink-0 overflow-y-auto shows-more border-t border-base-300" aria-label="Leads">
            {leads.map((one) => (
              <LeadLine key={one.id} lead={one} isOpen={one.id === lead?.id} />
            ))}
            {leads.length === 0 && (
              <li className="caption p-3">
                Nothing leads anywhere yet. Choose a ready-made set for the selected joint; or add a source, press
                Learn, move it, then move a joint.
              </li>
            )}
          </ul>
          <TabStrip
            label="What to show of the lead"
            tabs={tabsOf("inputs")}
            chosen={tab}
            onChoose={(next) => openTab("inputs", next)}
            panelId="about-lead"
          />
          <TabPanel id="about-lead" tab={tab} className="min-h-0 grow overflow-y-auto shows-more">
            {!lead && (tab === "chain" || tab === "seen") && (
              <p className="caption p-3">
                What lies between a source and its joint is shown here, once one leads there.
              </p>
            )}
            {tab === "chain" && lead && source && <ChainEditor key={lead.id} lead={lead} source={source} />}
            {tab === "seen" && lead && source && <SeenPanel key={lead.id} lead={lead} source={source} />}
            {tab === "log" && (
              <Fetched>
                <LogPanel />
              </Fetched>
            )}
            {tab === "control" && joint && <ControlPanel joint={joint} />}
          </TabPanel>
        </div>
      </div>
    </div>
  );
}
