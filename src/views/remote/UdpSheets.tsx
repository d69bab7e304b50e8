import type { DoorSettings } from "@core/remote";
import { doorStore, remoteStore, setDoors } from "@stores/remote";
import { useStore } from "zustand";
import { QuantityField } from "../parts/QuantityField";
import { TextField } from "../parts/TextField";
import { DoorWords } from "./DoorWords";
import { OutField } from "./MqttSheet";

/** Show desks and tablets that send addresses and numbers over UDP. */
export function OscSheet() {
  const settings = useStore(doorStore);
  const door = useStore(remoteStore, (view) => view.doors?.osc);
  const { osc } = settings;
  const set = (change: Partial<DoorSettings["osc"]>) => setDoors({ ...settings, osc: { ...osc, ...change } });
  return (
    <section className="sheet space-y-2 p-3" aria-labelledby="osc-heading">
      <SheetHead id="osc-heading" title="OSC" isOn={osc.isOn} onChange={(isOn) => set({ isOn })} />
      {osc.isOn && (
        <>
          <div className="grid grid-cols-[6rem_minmax(0,1fr)] gap-2">
            <QuantityField label="UDP port" value={osc.port} unit="" decimals={0} onCommit={(port) => set({ port })} />
            <TextField
              label="States are said to"
              value={osc.to}
              placeholder="address:port"
              onCommit={(to) => set({ to })}
            />
          </div>
          <OutField
            isOut={osc.isOut}
            onChange={(isOut) => set({ isOut })}
            words="The network reaches it too, while others are let in. Anybody there may move what is bound to an address."
          />
          <DoorWords door={door} />
        </>
      )}
    </section>
  );
}

/** A lighting desk's universes. */
export function SacnSheet() {
  const settings = useStore(doorStore);
  const door = useStore(remoteStore, (view) => view.doors?.sacn);
  const { sacn } = settings;
  const set = (change: Partial<DoorSettings["sacn"]>) => setDoors({ ...settings, sacn: { ...sacn, ...change } });
  return (
    <section className="sheet space-y-2 p-3" aria-labelledby="sacn-heading">
      <SheetHead id="sacn-heading" title="sACN" isOn={sacn.isOn} onChange={(isOn) => set({ isOn })} />
      {sacn.isOn && (
        <>
          <QuantityField
            label="Universe that is listened to for new slots"
            value={sacn.universe}
            unit=""
            decimals={0}
            onCommit={(universe) => set({ universe })}
          />
          <OutField
            isOut={sacn.isOut}
            onChange={(isOut) => set({ isOut })}
            words="The network reaches it too, while others are let in. Any desk there may move what is bound to a slot."
          />
          <DoorWords door={door} />
        </>
      )}
    </section>
  );
}

interface SheetHeadProps {
  readonly id: string;
  readonly title: string;
  readonly isOn: boolean;
  readonly onChange: (isOn: boolean) => void;
}

const SheetHead = ({ id, title, isOn, onChange }: SheetHeadProps) => (
  <div className="flex items-center justify-between">
    <h2 id={id} className="heading">
      {title}
    </h2>
    <label className="flex items-center gap-2 text-sm">
      {isOn ? "on" : "shut"}
      <input
        type="checkbox"
        className="toggle toggle-sm"
        aria-label={`${title} door`}
        checked={isOn}
        onChange={(event) => onChange(event.target.checked)}
      />
    </label>
  </div>
);
