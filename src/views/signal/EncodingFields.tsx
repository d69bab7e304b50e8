import { latenessPresets } from "@core/position";
import type { Encoding, EncodingOf, Lateness } from "@core/project";
import { frequencyUnitsHz, timeUnitsUs } from "@core/signal";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";

interface EncodingFieldsProps {
  readonly encoding: Encoding;
  /** Gives a sentence when the settings are not possible. */
  readonly onEncoding: (encoding: Encoding) => string | null;
}

const roundings = [
  ["round", "rounds to the nearest"],
  ["truncate", "cuts off"],
] as const;

/** The fields of each way of making signals. */
export function EncodingFields({ encoding, onEncoding }: EncodingFieldsProps) {
  const number = (label: string, field: string, value: number, unit: string, decimals: number, more = {}) => (
    <QuantityField
      key={field}
      label={label}
      value={value}
      unit={unit}
      decimals={decimals}
      {...more}
      onCommit={(typed) => onEncoding({ ...encoding, [field]: typed } as Encoding)}
    />
  );
  const rounding = (value: "round" | "truncate") => (
    <ChoiceField
      label="Between two numbers it"
      value={value}
      choices={roundings}
      onChoose={(chosen) => onEncoding({ ...encoding, rounding: chosen } as Encoding)}
    />
  );
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      {encoding.kind === "percent" && (
        <>
          {number("Step of the API", "stepPercent", encoding.stepPercent, "%", 4)}
          {rounding(encoding.rounding)}
        </>
      )}
      {encoding.kind === "counts" && (
        <>
          {number("Bits", "bits", encoding.bits, "", 0, { step: 1 })}
          <ChoiceField
            label="Full scale"
            value={encoding.fullScale}
            choices={[
              ["2^n", `2ⁿ = ${2 ** encoding.bits}`],
              ["2^n-1", `2ⁿ − 1 = ${2 ** encoding.bits - 1}`],
            ]}
            onChoose={(fullScale) => onEncoding({ ...encoding, fullScale })}
          />
          {rounding(encoding.rounding)}
        </>
      )}
      {encoding.kind === "pulseChip" && (
        <>
          {number("Oscillator", "oscillatorHz", encoding.oscillatorHz, "Hz", 0, { units: frequencyUnitsHz })}
          {number("It really runs fast by", "oscillatorErrorPercent", encoding.oscillatorErrorPercent, "%", 2, {
            step: 0.5,
          })}
          {number("Bits", "bits", encoding.bits, "", 0, { step: 1 })}
          {rounding(encoding.rounding)}
        </>
      )}
      {encoding.kind === "timer" && (
        <>
          {number("Clock", "clockHz", encoding.clockHz, "Hz", 0, { units: frequencyUnitsHz })}
          {number("Prescale", "prescale", encoding.prescale, "", 0)}
          {number("Counter bits", "counterBits", encoding.counterBits, "", 0, { step: 1 })}
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
      )}
      {encoding.kind === "microseconds" &&
        number("Tick behind the call", "tickUs", encoding.tickUs, "µs", 2, { units: timeUnitsUs })}
      {encoding.kind === "software" && <SoftwareFields encoding={encoding} onEncoding={onEncoding} />}
      {encoding.kind === "bus" && <>{number("Bus speed", "bitsPerS", encoding.bitsPerS, "bit/s", 0)}</>}
    </div>
  );
}

interface SoftwareFieldsProps {
  readonly encoding: EncodingOf<"software">;
  readonly onEncoding: (encoding: Encoding) => string | null;
}

function SoftwareFields({ encoding, onEncoding }: SoftwareFieldsProps) {
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
  readonly lateness: Lateness;
  readonly onLateness: (lateness: Lateness) => string | null;
}

const presetWords = {
  quiet: "a quiet machine",
  busy: "a busy machine",
  pinned: "a core of its own",
  own: "own numbers",
};

/** The model of late wake-ups, its presets and every one of its numbers. */
export function LatenessFields({ lateness, onLateness }: LatenessFieldsProps) {
  const presets = Object.entries(latenessPresets) as [keyof typeof latenessPresets, Lateness][];
  const current = presets.find(([, preset]) => JSON.stringify(preset) === JSON.stringify(lateness))?.[0] ?? "own";
  const number = (label: string, field: keyof Lateness, unit: string, scale = 1) => (
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
