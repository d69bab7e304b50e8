import { type Encoding, type EncodingKind, type EncodingOf, latenessPresets, type WakeLateness } from "@core/encodings";
import { frequencyUnitsHz, timeUnitsUs } from "@core/signal";
import { dequal } from "dequal";
import type { ComponentType } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";

interface FieldsProps<Of extends Encoding> {
  readonly encoding: Of;
  /** Gives a sentence when the settings are not possible. */
  readonly onEncoding: (encoding: Encoding) => string | null;
}

type Fields<Kind extends EncodingKind> = FieldsProps<EncodingOf<Kind>>;

/** The fields of each way of making signals. */
export function EncodingFields(props: FieldsProps<Encoding>) {
  const Fields = fields[props.encoding.kind] as ComponentType<FieldsProps<Encoding>>;
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      <Fields {...props} />
    </div>
  );
}

/** What each kind shows; the compiler misses any that is left out. */
const fields: { readonly [Kind in EncodingKind]: ComponentType<Fields<Kind>> } = {
  percent: ({ encoding, onEncoding }) => (
    <>
      <QuantityField
        label="Step of the API"
        value={encoding.stepPercent}
        unit="%"
        decimals={4}
        onCommit={(stepPercent) => onEncoding({ ...encoding, stepPercent })}
      />
      <RoundingField rounding={encoding.rounding} onRounding={(rounding) => onEncoding({ ...encoding, rounding })} />
    </>
  ),
  counts: CountsFields,
  pulseChip: PulseChipFields,
  timer: TimerFields,
  microseconds: ({ encoding, onEncoding }) => (
    <QuantityField
      label="Tick behind the call"
      value={encoding.tickUs}
      unit="µs"
      decimals={2}
      units={timeUnitsUs}
      onCommit={(tickUs) => onEncoding({ ...encoding, tickUs })}
    />
  ),
  software: SoftwareFields,
  bus: ({ encoding, onEncoding }) => (
    <QuantityField
      label="Bus speed"
      value={encoding.bitsPerS}
      unit="bit/s"
      decimals={0}
      onCommit={(bitsPerS) => onEncoding({ ...encoding, bitsPerS })}
    />
  ),
};

type Rounding = EncodingOf<"counts">["rounding"];

interface RoundingFieldProps {
  readonly rounding: Rounding;
  readonly onRounding: (rounding: Rounding) => void;
}

const RoundingField = ({ rounding, onRounding }: RoundingFieldProps) => (
  <ChoiceField
    label="Between two numbers it"
    value={rounding}
    choices={[
      ["round", "rounds to the nearest"],
      ["truncate", "cuts off"],
    ]}
    onChoose={onRounding}
  />
);

interface WholeFieldProps {
  readonly label: string;
  readonly value: number;
  readonly step?: number;
  readonly onCommit: (value: number) => string | null;
}

const WholeField = (props: WholeFieldProps) => <QuantityField unit="" decimals={0} {...props} />;

const ClockField = (props: WholeFieldProps) => (
  <QuantityField unit="Hz" decimals={0} units={frequencyUnitsHz} {...props} />
);

function CountsFields({ encoding, onEncoding }: Fields<"counts">) {
  return (
    <>
      <WholeField label="Bits" value={encoding.bits} step={1} onCommit={(bits) => onEncoding({ ...encoding, bits })} />
      <ChoiceField
        label="Full scale"
        value={encoding.fullScale}
        choices={[
          ["2^n", `2ⁿ = ${2 ** encoding.bits}`],
          ["2^n-1", `2ⁿ − 1 = ${2 ** encoding.bits - 1}`],
        ]}
        onChoose={(fullScale) => onEncoding({ ...encoding, fullScale })}
      />
      <RoundingField rounding={encoding.rounding} onRounding={(rounding) => onEncoding({ ...encoding, rounding })} />
    </>
  );
}

function PulseChipFields({ encoding, onEncoding }: Fields<"pulseChip">) {
  return (
    <>
      <ClockField
        label="Oscillator"
        value={encoding.oscillatorHz}
        onCommit={(oscillatorHz) => onEncoding({ ...encoding, oscillatorHz })}
      />
      <QuantityField
        label="It really runs fast by"
        value={encoding.oscillatorErrorPercent}
        unit="%"
        decimals={2}
        step={0.5}
        onCommit={(oscillatorErrorPercent) => onEncoding({ ...encoding, oscillatorErrorPercent })}
      />
      <WholeField label="Bits" value={encoding.bits} step={1} onCommit={(bits) => onEncoding({ ...encoding, bits })} />
      <RoundingField rounding={encoding.rounding} onRounding={(rounding) => onEncoding({ ...encoding, rounding })} />
      <WholeField
        label="Counts from one channel's start to the next"
        value={encoding.stagger ?? 0}
        onCommit={(stagger) => onEncoding({ ...encoding, stagger })}
      />
    </>
  );
}

function TimerFields({ encoding, onEncoding }: Fields<"timer">) {
  return (
    <>
      <ClockField label="Clock" value={encoding.clockHz} onCommit={(clockHz) => onEncoding({ ...encoding, clockHz })} />
      <WholeField
        label="Prescale"
        value={encoding.prescale}
        onCommit={(prescale) => onEncoding({ ...encoding, prescale })}
      />
      <WholeField
        label="Counter bits"
        value={encoding.counterBits}
        step={1}
        onCommit={(counterBits) => onEncoding({ ...encoding, counterBits })}
      />
      <ChoiceField
        label="Alignment"
        value={encoding.alignment}
        choices={[
          ["edge", "edge: counts up"],
          ["centre", "centre: up and down"],
        ]}
        onChoose={(alignment) => onEncoding({ ...encoding, alignment })}
      />
      <ChoiceField
        label="Output"
        value={encoding.output}
        choices={[
          ["normal", "normal"],
          ["inverted", "inverted"],
        ]}
        onChoose={(output) => onEncoding({ ...encoding, output })}
      />
    </>
  );
}

function SoftwareFields({ encoding, onEncoding }: Fields<"software">) {
  const { framing } = encoding;
  const time = (label: string, field: "granularityUs" | "largestDelayUs" | "loopOverheadUs") => (
    <QuantityField
      label={label}
      value={encoding[field]}
      unit="µs"
      decimals={field === "granularityUs" ? 2 : 0}
      units={timeUnitsUs}
      onCommit={(typed) => onEncoding({ ...encoding, [field]: typed })}
    />
  );
  return (
    <>
      <ChoiceField
        label="Frame"
        value={framing.kind}
        choices={[
          ["fixedPeriod", "fixed period"],
          ["fixedGap", "pulse, then a fixed gap"],
        ]}
        onChoose={(kind) =>
          onEncoding({ ...encoding, framing: kind === "fixedPeriod" ? { kind } : { kind, gapUs: 20_000 } })
        }
      />
      {framing.kind === "fixedGap" && (
        <QuantityField
          label="Gap"
          value={framing.gapUs}
          unit="µs"
          decimals={0}
          units={timeUnitsUs}
          onCommit={(gapUs) => onEncoding({ ...encoding, framing: { kind: "fixedGap", gapUs } })}
        />
      )}
      {time("Sleeps come in", "granularityUs")}
      {time("Largest single sleep", "largestDelayUs")}
      {time("The loop itself takes", "loopOverheadUs")}
      <LatenessFields lateness={encoding.lateness} onLateness={(lateness) => onEncoding({ ...encoding, lateness })} />
    </>
  );
}

interface LatenessFieldsProps {
  readonly lateness: WakeLateness;
  readonly onLateness: (lateness: WakeLateness) => string | null;
}

const presetWords = {
  quiet: "a quiet machine",
  busy: "a busy machine",
  pinned: "a core of its own",
  own: "own numbers",
};

/** The model of late wake-ups, its presets and every one of its numbers. */
export function LatenessFields({ lateness, onLateness }: LatenessFieldsProps) {
  const presets = Object.entries(latenessPresets) as [keyof typeof latenessPresets, WakeLateness][];
  const current = presets.find(([, preset]) => dequal(preset, lateness))?.[0] ?? "own";
  const number = (label: string, field: keyof WakeLateness, unit: string, scale = 1) => (
    <QuantityField
      label={label}
      value={lateness[field] * scale}
      unit={unit}
      decimals={unit === "%" ? 3 : 1}
      {...(unit === "µs" && { units: timeUnitsUs })}
      onCommit={(typed) => onLateness({ ...lateness, [field]: typed / scale })}
    />
  );
  return (
    <>
      <ChoiceField
        label="It wakes as on"
        value={current}
        choices={(Object.entries(presetWords) as [keyof typeof presetWords, string][]).filter(
          ([name]) => name !== "own" || current === "own",
        )}
        onChoose={(name) => name !== "own" && onLateness(latenessPresets[name])}
      />
      {number("Always late by", "floorUs", "µs")}
      {number("and on average another", "meanUs", "µs")}
      {number("Interrupted in", "spikeChance", "%", 100)}
      {number("for, on average", "spikeMeanUs", "µs")}
    </>
  );
}
