import { setBusSpeed } from "@core/project";
import { busStore, runOnBus } from "@stores/bus";
import { speedWords } from "@stores/busBench";
import { edit } from "@stores/document";
import { command } from "@stores/live";
import { useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import type { BusToolProps } from "./toolProps";

/** All devices go to another speed together, or none of them does. */
export function SpeedChange({ bus }: BusToolProps) {
  const { board, devices } = bus;
  const now = board.encoding.bitsPerS;
  const shared = devices[0]?.layout.bitRates
    .map(({ bitsPerS }) => bitsPerS)
    .filter((bitsPerS) => devices.every(({ layout }) => layout.bitRates.some((rate) => rate.bitsPerS === bitsPerS)));
  const [to, setTo] = useState(now);
  const [said, setSaid] = useState("");
  const isRunning = useStore(busStore, ({ running }) => running !== null);

  const change = async () => {
    // While the speed changes no goal would be heard.
    for (const { joint } of devices) if (joint) command({ kind: "release", jointId: joint.id });
    const told = await runOnBus(board.id, {
      kind: "changeSpeed",
      devices: devices.map(({ layout, id }) => ({ layoutId: layout.id, id })),
      toBitsPerS: to,
    });
    if (told.kind !== "done") return;
    setSaid(told.outcome.sentence);
    if (told.outcome.isDone) edit(setBusSpeed(board.id, to));
  };

  return (
    <section className="sheet space-y-2" aria-label="Speed of the bus">
      <h2 className="heading">Speed of the bus</h2>
      <p className="caption">
        It runs at {speedWords(now)}. All {devices.length} on the map are told, one after the other, and called at the
        new speed; if one is lost, all go back. The joints on the bus are released for it.
      </p>
      <div className="flex items-end gap-2">
        <ChoiceField
          label="Change to"
          className="w-44"
          value={String(to)}
          choices={(shared ?? [now]).map((bitsPerS) => [String(bitsPerS), speedWords(bitsPerS)])}
          onChoose={(chosen) => setTo(Number(chosen))}
        />
        <button
          type="button"
          className="btn btn-sm btn-outline"
          disabled={isRunning || to === now || devices.length === 0}
          onClick={() => void change()}
        >
          Change all {devices.length}
        </button>
      </div>
      <p role="status" className="text-sm">
        {said}
      </p>
    </section>
  );
}
