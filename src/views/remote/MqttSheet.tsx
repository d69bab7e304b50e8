import type { DoorSettings } from "@core/remote";
import { doorStore, remoteStore, setDoors } from "@stores/remote";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { TextField } from "../parts/TextField";
import { DoorWords } from "./DoorWords";

/** The bench as a client of a broker, or with one within. */
export function MqttSheet() {
  const settings = useStore(doorStore);
  const doors = useStore(remoteStore, (view) => view.doors);
  const { mqtt } = settings;
  const set = (change: Partial<DoorSettings["mqtt"]>) => setDoors({ ...settings, mqtt: { ...mqtt, ...change } });
  return (
    <section className="sheet space-y-2 p-3" aria-labelledby="mqtt-heading">
      <h2 id="mqtt-heading" className="heading">
        MQTT
      </h2>
      <ChoiceField
        label="Through"
        value={mqtt.via}
        choices={[
          ["off", "nothing: it is shut"],
          ["inside", "a broker within this bench"],
          ["broker", "a broker of your own"],
        ]}
        onChoose={(via) => set({ via })}
      />
      {mqtt.via === "broker" && (
        <>
          <TextField label="Address of the broker" value={mqtt.address} onCommit={(address) => set({ address })} />
          <div className="grid grid-cols-2 gap-2">
            <TextField label="Name, if it asks for one" value={mqtt.name} onCommit={(name) => set({ name })} />
            <TextField label="Its word" value={mqtt.word} isSecret onCommit={(word) => set({ word })} />
          </div>
          <ChoiceField
            label="Version"
            value={mqtt.version === 5 ? "5" : "4"}
            choices={[
              ["5", "MQTT 5"],
              ["4", "MQTT 3.1.1"],
            ]}
            onChoose={(version) => set({ version: version === "5" ? 5 : 4 })}
          />
        </>
      )}
      {mqtt.via === "inside" && (
        <>
          <div className="grid grid-cols-2 gap-2">
            <QuantityField label="Port" value={mqtt.port} unit="" decimals={0} onCommit={(port) => set({ port })} />
            <TextField
              label="Word for others"
              value={mqtt.insideWord}
              isSecret
              onCommit={(insideWord) => set({ insideWord })}
            />
          </div>
          <OutField
            isOut={mqtt.isOut}
            onChange={(isOut) => set({ isOut })}
            words="The network reaches it too, while others are let in, with that word. It speaks MQTT 3.1.1."
          />
          <DoorWords door={doors?.broker} />
        </>
      )}
      {mqtt.via !== "off" && <DoorWords door={doors?.mqtt} />}
    </section>
  );
}

interface OutFieldProps {
  readonly isOut: boolean;
  readonly onChange: (isOut: boolean) => void;
  readonly words: string;
}

export const OutField = ({ isOut, onChange, words }: OutFieldProps) => (
  <label className="flex items-start gap-2 text-sm">
    <input
      type="checkbox"
      className="checkbox checkbox-sm mt-0.5"
      checked={isOut}
      onChange={(event) => onChange(event.target.checked)}
    />
    <span>{words}</span>
  </label>
);
