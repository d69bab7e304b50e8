import { rewireJoint } from "@core/project";
import { busStore, forgetFound, keepFound, runOnBus } from "@stores/bus";
import { edit } from "@stores/document";
import { useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import type { BusToolProps } from "./toolProps";

/**
 * Numbers servos one at a time: look for one, give it a free number, see that it took it, and so on with the next. Two that answer as one are known, and the way
 * out is said.
 */
export function NumberGuide({ bus }: BusToolProps) {
  const { board, layouts, devices } = bus;
  const [layoutId, setLayoutId] = useState(layouts[0]?.id ?? "");
  const layout = layouts.find(({ id }) => id === layoutId) ?? layouts[0];
  const [from, setFrom] = useState(layout?.defaultId ?? 1);
  const [chosenTo, setTo] = useState<number | null>(null);
  const [look, setLook] = useState<"nobody" | "one" | "clash" | null>(null);
  const [said, setSaid] = useState("");
  const isRunning = useStore(busStore, ({ running }) => running !== null);
  if (!layout) return null;
  const taken = new Set(devices.map(({ id }) => id));
  let free = 1;
  while (taken.has(free) || free === layout.defaultId) free += 1;
  const to = chosenTo ?? free;

  const find = async () => {
    setSaid("");
    const told = await runOnBus(board.id, { kind: "meet", layoutId: layout.id, id: from });
    if (told.kind !== "found") return setLook(null);
    const one = told.found[0];
    setLook(one ? (one.isClash ? "clash" : "one") : "nobody");
    if (one) keepFound(board.id, [{ ...one, bitsPerS: board.encoding.bitsPerS }], false);
    else forgetFound(board.id, layout.id, from);
  };
  const number = async () => {
    const told = await runOnBus(board.id, { kind: "renumber", layoutId: layout.id, from, to });
    if (told.kind !== "done") return;
    setSaid(told.outcome.sentence);
    if (!told.outcome.isDone) return;
    setLook(null);
    setTo(null);
    forgetFound(board.id, layout.id, from);
    keepFound(
      board.id,
      [{ layoutId: layout.id, id: to, bitsPerS: board.encoding.bitsPerS, isClash: false, model: null, firmware: null }],
      false,
    );
    // A joint follows its servo.
    const joint = devices.find((device) => device.layout.id === layout.id && device.id === from)?.joint;
    if (joint) edit(rewireJoint(joint.id, board.id, to));
  };
  const whole = (take: (value: number) => void) => (value: number) => {
    if (!Number.isInteger(value) || value < 0 || value > layout.highestId)
      return `Numbers go from 0 to ${layout.highestId}.`;
    take(value);
    return null;
  };

  return (
    <section className="sheet space-y-2" aria-label="Number one at a time">
      <h2 className="heading">Number them one at a time</h2>
      <p className="caption">
        New servos all believe that they are number {layout.defaultId}. Plug in one, number it, then the next.
      </p>
      <div className="grid grid-cols-3 gap-2">
        <ChoiceField
          label="Its family"
          value={layout.id}
          choices={layouts.map(({ id, name }) => [id, name])}
          onChoose={setLayoutId}
        />
        <QuantityField
          label="Answers as"
          value={from}
          unit=""
          decimals={0}
          step={1}
          onCommit={whole((value) => {
            setFrom(value);
            setLook(null);
          })}
        />
        <QuantityField label="Shall be" value={to} unit="" decimals={0} step={1} onCommit={whole(setTo)} />
      </div>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn btn-sm btn-outline" disabled={isRunning} onClick={() => void find()}>
          Look for number {from}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={isRunning || look !== "one"}
          onClick={() => void number()}
        >
          Make it number {to}
        </button>
      </div>
      <p role="status" className={`min-h-10 text-sm ${look === "clash" ? "text-error" : ""}`}>
        {said || lookWords(look, from)}
      </p>
    </section>
  );
}

function lookWords(look: "nobody" | "one" | "clash" | null, id: number): string {
  switch (look) {
    case "nobody":
      return `Nobody answers as ${id}. Is it plugged in, has it its supply, and is the bus at its speed?`;
    case "one":
      return `Just one answers as ${id}. It lets go for a moment while it is numbered.`;
    case "clash":
      return `Two or more answer as ${id}: what they say at once is garbled, or comes twice. Unplug all of them but one, look again, and number that one; then plug in the next.`;
    case null:
      return "";
  }
}
