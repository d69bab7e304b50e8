import { type BusRun, busStore, endRun, keepFound, runOnBus } from "@stores/bus";
import { speedWords } from "@stores/busBench";
import { command } from "@stores/live";
import { useState } from "react";
import { useStore } from "zustand";
import { QuantityField } from "../parts/QuantityField";
import { MakeJoint } from "./MakeJoint";
import { NumberGuide } from "./NumberGuide";
import { RunBar } from "./RunBar";
import { SpeedChange } from "./SpeedChange";
import type { BusToolProps } from "./toolProps";

/** Who is on the wire; one number for each of them; one speed for all. */
export function FindTool({ bus }: BusToolProps) {
  return (
    <div className="grid gap-4 xl:grid-cols-2">
      <Scan bus={bus} />
      <NumberGuide bus={bus} />
      <MakeJoint bus={bus} />
      <SpeedChange bus={bus} />
    </div>
  );
}

function Scan({ bus }: BusToolProps) {
  const { board, layouts } = bus;
  const [families, setFamilies] = useState<readonly string[]>(() => layouts.map(({ id }) => id));
  const [isEverySpeed, setEverySpeed] = useState(false);
  const [highestId, setHighestId] = useState(30);
  const [outcome, setOutcome] = useState("");
  const isRunning = useStore(busStore, ({ running }) => running !== null);
  const speeds = [
    ...new Set(
      layouts
        .filter(({ id }) => families.includes(id))
        .flatMap((layout) => layout.bitRates.map(({ bitsPerS }) => bitsPerS)),
    ),
  ];

  const scan = async () => {
    setOutcome("");
    // At another speed no goal would be heard; nobody is to be left pushing unseen.
    if (isEverySpeed) for (const { joint } of bus.devices) if (joint) command({ kind: "release", jointId: joint.id });
    const run: BusRun = {
      kind: "scan",
      layoutIds: families,
      lowestId: 0,
      highestId,
      bitsPerS: isEverySpeed ? speeds : [board.encoding.bitsPerS],
    };
    const told = await runOnBus(board.id, run);
    if (told.kind === "found") {
      keepFound(board.id, told.found, true);
      const clashes = told.found.filter(({ isClash }) => isClash).map(({ id }) => id);
      setOutcome(
        `${told.found.length === 0 ? "Nobody answered. Check the supply, the plug, the family and the speed." : `${told.found.length} found.`}${clashes.length > 0 ? ` Two or more answer as ${clashes.join(", ")}.` : ""}`,
      );
    } else if (told.kind === "refused") setOutcome(told.sentence);
  };

  return (
    <section className="sheet space-y-2" aria-label="Scan">
      <h2 className="heading">Scan the wire</h2>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {layouts.map(({ id, name }) => (
          <label key={id} className="flex items-center gap-1.5 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={families.includes(id)}
              onChange={(event) =>
                setFamilies(event.target.checked ? [...families, id] : families.filter((one) => one !== id))
              }
            />
            {name}
          </label>
        ))}
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={isEverySpeed}
            onChange={(event) => setEverySpeed(event.target.checked)}
          />
          at every speed they know (releases the joints on this bus)
        </label>
      </div>
      <div className="flex items-end gap-3">
        <QuantityField
          label="Numbers up to"
          value={highestId}
          unit=""
          decimals={0}
          className="w-28"
          onCommit={(value) => {
            if (value < 1 || value > 254) return "Numbers go from 0 to 254.";
            setHighestId(Math.round(value));
            return null;
          }}
        />
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={isRunning || families.length === 0}
          onClick={() => void scan()}
        >
          Scan
        </button>
        <button type="button" className="btn btn-outline btn-sm" disabled={!isRunning} onClick={() => endRun(board.id)}>
          End it
        </button>
      </div>
      <RunBar />
      <p role="status" className="text-sm">
        {outcome || (isEverySpeed ? "" : `At ${speedWords(board.encoding.bitsPerS)}; the joints go on meanwhile.`)}
      </p>
    </section>
  );
}
