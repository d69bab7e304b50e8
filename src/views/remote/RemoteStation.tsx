import { remoteStore, useRemoteLook } from "@stores/remote";
import { openTab, type TabOf, tabsOf, useOpenTab } from "@stores/stationTabs";
import type { ComponentType } from "react";
import { useStore } from "zustand";
import { Opened } from "../parts/Opened";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { DevicesPanel } from "./DevicesPanel";
import { HandsetPanel } from "./HandsetPanel";
import { LogPanel } from "./LogPanel";
import { MessagesPanel } from "./MessagesPanel";
import { PadsPanel } from "./PadsPanel";

/** Hands from another room: pads for phones, who is let in with them, and what happened at the door. */
export default function RemoteStation() {
  return (
    <Opened isStation>
      <Remote />
    </Opened>
  );
}

const panels: Readonly<Record<TabOf<"remote">, ComponentType>> = {
  pads: PadsPanel,
  devices: DevicesPanel,
  messages: MessagesPanel,
  handset: HandsetPanel,
  log: LogPanel,
};

function Remote() {
  useRemoteLook();
  const tab = useOpenTab("remote");
  const Panel = panels[tab];
  const line = useStore(remoteStore, (view) => view.line);
  return (
    <div className="flex h-full min-h-0 flex-col gap-3">
      <div className="flex items-baseline gap-4">
        <h1 className="heading text-xl">Remote</h1>
        <TabStrip
          label="Remote"
          tabs={tabsOf("remote")}
          chosen={tab}
          onChoose={(next) => openTab("remote", next)}
          panelId="remote-panel"
          className="grow"
        />
        <Doors />
      </div>
      {line && !line.isThere && (
        <p role="status" className="rounded-box bg-warning px-3 py-1.5 text-sm text-warning-content">
          {line.sentence}
        </p>
      )}
      <TabPanel id="remote-panel" tab={tab} className="min-h-0 grow">
        <Panel />
      </TabPanel>
    </div>
  );
}

/** How the door stands, whatever is looked at. */
function Doors() {
  const standing = useStore(remoteStore, (view) => view.standing);
  if (!standing) return null;
  const here = standing.devices.filter(({ isHere }) => isHere).length;
  return (
    <p className={`text-sm ${standing.isOpen ? "font-semibold text-error" : ""}`} role="status">
      {standing.isOpen ? "Others are let in." : "Nobody but this computer is let in."}
      {here > 0 && ` ${here === 1 ? "One pad" : `${here} pads`} here.`}
    </p>
  );
}
