import type { Origin } from "@core/origins";
import { handsetParts, type OriginOf } from "@core/origins";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { TextField } from "../parts/TextField";

interface Fields<Kind extends Origin["kind"]> {
  readonly origin: OriginOf<Kind>;
  /** Takes the changed origin; gives a sentence where it cannot be. */
  readonly onOrigin: (origin: Origin) => string | null;
}

/** The settings of what comes from another machine. */
export function MqttFields({ origin, onOrigin }: Fields<"mqtt">) {
  return (
    <div className="grid grid-cols-3 gap-3">
      <TextField label="Topic behind “in/”" value={origin.topic} onCommit={(topic) => onOrigin({ ...origin, topic })} />
      <Taken origin={origin} onOrigin={onOrigin} />
    </div>
  );
}

export function OscFields({ origin, onOrigin }: Fields<"osc">) {
  return (
    <div className="grid grid-cols-4 gap-3">
      <TextField label="Address" value={origin.address} onCommit={(address) => onOrigin({ ...origin, address })} />
      <QuantityField
        label="Which number of it"
        value={origin.argument + 1}
        unit=""
        decimals={0}
        onCommit={(place) => onOrigin({ ...origin, argument: place - 1 })}
      />
      <Taken origin={origin} onOrigin={onOrigin} />
    </div>
  );
}

export function SacnFields({ origin, onOrigin }: Fields<"sacn">) {
  return (
    <div className="grid grid-cols-3 gap-3">
      <QuantityField
        label="Universe"
        value={origin.universe}
        unit=""
        decimals={0}
        onCommit={(universe) => onOrigin({ ...origin, universe })}
      />
      <QuantityField
        label="Slot"
        value={origin.slot}
        unit=""
        decimals={0}
        onCommit={(slot) => onOrigin({ ...origin, slot })}
      />
      <ChoiceField
        label="Its numbers have"
        value={origin.isFine ? "fine" : "coarse"}
        choices={[
          ["coarse", "8 bits: this slot"],
          ["fine", "16 bits: this and the next"],
        ]}
        onChoose={(bits) => onOrigin({ ...origin, isFine: bits === "fine" })}
      />
    </div>
  );
}

export function CueFields({ origin, onOrigin }: Fields<"cue">) {
  return (
    <TextField
      label="Name of the cue"
      value={origin.name}
      maxLength={40}
      onCommit={(name) => onOrigin({ ...origin, name })}
    />
  );
}

export function HandsetFields({ origin, onOrigin }: Fields<"handset">) {
  return (
    <ChoiceField
      label="Part of the handset"
      value={origin.part}
      choices={handsetParts.map((part) => [part, handsetWords[part]] as const)}
      onChoose={(part) => onOrigin({ ...origin, part })}
    />
  );
}

const handsetWords = {
  across: "stick, across",
  up: "stick, up",
  first: "first button",
  second: "second button",
  battery: "battery",
} as const;

type Taking = OriginOf<"mqtt"> | OriginOf<"osc">;

/** Whether somebody's hand is at the other end, and after how long a silence that one is taken to be gone. */
function Taken({
  origin,
  onOrigin,
}: {
  readonly origin: Taking;
  readonly onOrigin: (origin: Origin) => string | null;
}) {
  const { silentAfterMs } = origin;
  return (
    <>
      <ChoiceField
        label="It is moved"
        value={origin.isHand ? "hand" : "itself"}
        choices={[
          ["hand", "by somebody's hand"],
          ["itself", "by itself: a sensor"],
        ]}
        onChoose={(by) => onOrigin({ ...origin, isHand: by === "hand" })}
      />
      <QuantityField
        label="Gone after a silence of (0: never)"
        value={(silentAfterMs ?? 0) / 1000}
        unit="s"
        decimals={1}
        units={{ s: 1, ms: 0.001 }}
        onCommit={(seconds) => onOrigin({ ...origin, silentAfterMs: seconds === 0 ? null : seconds * 1000 })}
      />
    </>
  );
}
