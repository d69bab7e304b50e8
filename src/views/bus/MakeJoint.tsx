import { lacksForJoints, turnOnCard } from "@core/bus";
import { addBusJoint, type Joint, type SmartCard, usualControl } from "@core/project";
import { newCard } from "@core/servo";
import { busStore } from "@stores/bus";
import { deviceName } from "@stores/busBench";
import { edit, newId, useProject } from "@stores/document";
import { select } from "@stores/selection";
import { useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import type { BusToolProps } from "./toolProps";

/** A servo that was found becomes a joint like any other. */
export function MakeJoint({ bus }: BusToolProps) {
  const { board, devices } = bus;
  const rigs = useProject((project) => project.rigs);
  const table = useStore(busStore, (state) => state.table?.devices) ?? [];
  const free = devices.filter(({ joint, isClash, strayBitsPerS }) => !joint && !isClash && strayBitsPerS === null);
  const [chosen, setChosen] = useState("");
  const [rigId, setRigId] = useState(rigs[0]?.id ?? "");
  const [boxKey, setBoxKey] = useState("");
  const device = free.find(({ layout, id }) => `${layout.id} ${id}` === chosen) ?? free[0];
  const lacks = device && lacksForJoints(device.layout);
  const boxes = table.filter(
    (entry) => entry.isPlugged && entry.layoutId === device?.layout.id && entry.key.startsWith("new-"),
  );
  const box = boxes.find(({ key }) => key === boxKey) ?? boxes[0];

  const make = () => {
    if (!device) return;
    const label = `${device.layout.name} ${device.id}`;
    const card: SmartCard = {
      ...(newCard("smart", newId(), `${label}, as found`) as SmartCard),
      layoutId: device.layout.id,
      ...turnOnCard(device.layout),
    };
    const half = Math.floor(card.travelDeg / 2) - 1;
    const joint: Joint = {
      id: newId(),
      label,
      rigId,
      cardId: card.id,
      boardId: board.id,
      channel: device.id,
      axis: {
        kind: "angle",
        direction: 1,
        zeroDeg: card.travelDeg / 2,
        travel: { low: -half, high: half },
        homeDeg: 0,
        speedLimitDegPerS: 60,
      },
      control: usualControl,
    };
    if (edit(addBusJoint({ joint, card }, box?.key ?? null))) select(joint.id);
  };

  return (
    <section className="sheet space-y-2" aria-label="Make a joint of it">
      <h2 className="heading">Make a joint of it</h2>
      {!device ? (
        <p className="caption">Every servo that was found is a joint already, or must be numbered first.</p>
      ) : (
        <>
          <div className="grid grid-cols-2 gap-2">
            <ChoiceField
              label="Which"
              value={`${device.layout.id} ${device.id}`}
              choices={free.map((one) => [`${one.layout.id} ${one.id}`, deviceName(one)])}
              onChoose={setChosen}
            />
            <ChoiceField
              label="On the rig"
              value={rigId}
              choices={rigs.map(({ id, label }) => [id, label])}
              onChoose={setRigId}
            />
            {boxes.length > 1 && (
              <ChoiceField
                label="It is, on the table"
                value={box?.key ?? ""}
                choices={boxes.map(({ key, label }) => [key, label])}
                onChoose={setBoxKey}
              />
            )}
          </div>
          <button type="button" className="btn btn-sm btn-primary" disabled={lacks !== null} onClick={make}>
            Make {deviceName(device)} a joint
          </button>
          <p className="caption">
            {lacks ??
              "It gets a card of its own and stays limp until you hold it; 60 °/s at most until you say otherwise."}
          </p>
        </>
      )}
    </section>
  );
}
