import { watchBus } from "@stores/bus";
import { type BusBench, type BusBoard, chooseDevice, isBus, speedWords, useBusBench } from "@stores/busBench";
import { useProject } from "@stores/document";
import { useSelectedJoint } from "@stores/selection";
import { openTab, type TabOf, tabsOf, useOpenTab } from "@stores/stationTabs";
import type { ComponentType } from "react";
import { useEffect, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import { Opened } from "../parts/Opened";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { FindTool } from "./FindTool";
import { WireMap } from "./WireMap";

// Each is loaded when it is first chosen; only finding and numbering belongs to the first sight of the page.
const tools: Readonly<Record<TabOf<"bus">, ComponentType<{ readonly bus: BusBench }>>> = {
  find: FindTool,
  registers: lazily(() => import("./RegisterTool")),
  watch: lazily(() => import("./WatchTool")),
  packets: lazily(() => import("./PacketTool")),
  family: lazily(() => import("./FamilyTool")),
  time: lazily(() => import("./TimeTool")),
  faults: lazily(() => import("./FaultTool")),
};

/** Smart servos: find, number, read, write, watch. */
export default function BusStation() {
  return (
    <Opened isStation>
      <Buses />
    </Opened>
  );
}

function Buses() {
  const boards = useProject((project) => project.boards).filter(isBus);
  const [boardId, setBoardId] = useState(boards[0]?.id ?? "");
  const board = boards.find(({ id }) => id === boardId) ?? boards[0];
  if (!board) return <NoBus />;
  return (
    <OneBus key={board.id} board={board}>
      {boards.length > 1 && (
        <ChoiceField
          label="Bus"
          value={board.id}
          choices={boards.map(({ id, label }) => [id, label])}
          onChoose={setBoardId}
        />
      )}
    </OneBus>
  );
}

function NoBus() {
  return (
    <div className="sheet mx-auto mt-16 max-w-xl">
      <h1 className="heading text-xl">There is no bus on the bench</h1>
      <p className="mt-2">
        Smart servos share one wire and answer back. Add a board of the kind “Bus adapter for smart servos” to the
        project, and find out here who is on it.
      </p>
      <a href="/cards" className="btn btn-primary mt-4">
        Boards and joints
      </a>
    </div>
  );
}

function OneBus({ board, children }: { readonly board: BusBoard; readonly children: React.ReactNode }) {
  const bus = useBusBench(board);
  const tab = useOpenTab("bus");
  const jointId = useSelectedJoint()?.id;
  useEffect(() => watchBus(board.id), [board.id]);
  // Whoever is chosen on the rack is chosen here, if he is on this bus.
  const joined = bus.devices.find(({ joint }) => joint !== null && joint.id === jointId);
  const [layoutId, id] = [joined?.layout.id, joined?.id];
  useEffect(() => {
    if (layoutId !== undefined && id !== undefined) chooseDevice({ layoutId, id });
  }, [layoutId, id]);
  const Tool = tools[tab];
  return (
    <div className="flex h-full flex-col">
      <header className="mb-2 flex flex-wrap items-end gap-4">
        <div>
          <h1 className="heading text-xl">{board.label}, a bus</h1>
          <p className="caption">
            one wire, {speedWords(board.encoding.bitsPerS)}, {board.frameHz[0]} frames a second
          </p>
        </div>
        {children}
      </header>
      <div className="grid min-h-0 grow grid-cols-[17rem_minmax(0,1fr)] gap-5">
        <WireMap bus={bus} />
        <div className="flex min-h-0 flex-col">
          <TabStrip
            label="Tools"
            tabs={tabsOf("bus")}
            chosen={tab}
            onChoose={(next) => openTab("bus", next)}
            panelId="bus-tool"
            className="mb-3"
          />
          <TabPanel id="bus-tool" tab={tab} className="min-h-0 grow overflow-y-auto shows-more pr-1">
            <Fetched fallback={<p className="caption">Fetching the tool…</p>}>
              <Tool bus={bus} />
            </Fetched>
          </TabPanel>
        </div>
      </div>
    </div>
  );
}
