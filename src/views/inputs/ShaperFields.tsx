import { isSwitch, type Source } from "@core/project";
import { lagMsAt, type Shaper, type ShaperKind, type ShaperOf } from "@core/shapers";
import type { ComponentType } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { ShareField } from "../parts/ShareField";
import { DrawnCurve } from "./DrawnCurve";

interface FieldsOf<Of extends Shaper> {
  readonly shaper: Of;
  /** The other sources, for those that look at one. */
  readonly sources: readonly Source[];
  /** Takes the changed shaper; gives a sentence where it cannot be. */
  readonly onShaper: (shaper: Shaper) => string | null;
}

type Fields<Kind extends ShaperKind> = FieldsOf<ShaperOf<Kind>>;

/** The numbers of one shaper. */
export function ShaperFields(props: FieldsOf<Shaper>) {
  const Fields = fields[props.shaper.kind] as ComponentType<FieldsOf<Shaper>>;
  return (
    <div className="grid grid-cols-2 gap-2">
      <Fields {...props} />
    </div>
  );
}

/** What each kind of shaper shows; the compiler misses any that is left out. */
const fields: { readonly [Kind in ShaperKind]: ComponentType<Fields<Kind>> } = {
  rangeMap: RangeMapFields,
  limit: LimitFields,
  deadband: DeadbandFields,
  curve: CurveFields,
  smooth: SmoothFields,
  change: ({ shaper, onShaper }) => (
    <Amount label="passes from" value={shaper.by} onCommit={(by) => onShaper({ ...shaper, by })} />
  ),
  rate: ({ shaper, onShaper }) => (
    <Amount label="at most a second" value={shaper.perS} onCommit={(perS) => onShaper({ ...shaper, perS })} />
  ),
  detents: ({ shaper, onShaper }) => (
    <Amount
      label="steps a detent"
      value={shaper.stepsPerDetent}
      decimals={0}
      onCommit={(stepsPerDetent) => onShaper({ ...shaper, stepsPerDetent })}
    />
  ),
  threshold: ThresholdFields,
  toggle: () => <p className="caption col-span-2">Each switching on turns it over.</p>,
  latch: ({ shaper, onShaper }) => (
    <Time label="stays on for" ms={shaper.holdMs} onCommit={(holdMs) => onShaper({ ...shaper, holdMs })} />
  ),
  press: PressFields,
  sample: ({ shaper, sources, onShaper }) => (
    <OtherField
      label="taken when this switches on"
      id={shaper.whenSourceId}
      among={sources.filter(isSwitch)}
      onChoose={(whenSourceId) => onShaper({ ...shaper, whenSourceId })}
    />
  ),
  add: ({ shaper, onShaper }) => (
    <Amount label="adds" value={shaper.by} onCommit={(by) => onShaper({ ...shaper, by })} />
  ),
  scale: ({ shaper, onShaper }) => (
    <Amount label="times" value={shaper.by} decimals={3} onCommit={(by) => onShaper({ ...shaper, by })} />
  ),
  combine: CombineFields,
  select: SelectFields,
};

function RangeMapFields({ shaper, onShaper }: Fields<"rangeMap">) {
  const { from, to } = shaper;
  return (
    <>
      <Ends label="from" range={from} onCommit={(range) => onShaper({ ...shaper, from: range })} />
      <Ends label="to" range={to} onCommit={(range) => onShaper({ ...shaper, to: range })} />
      <button
        type="button"
        className="btn btn-outline btn-xs col-span-2"
        onClick={() => onShaper({ ...shaper, to: { low: to.high, high: to.low } })}
      >
        Turn it round
      </button>
    </>
  );
}

function LimitFields({ shaper, onShaper }: Fields<"limit">) {
  return (
    <>
      <Ends label="range" range={shaper.range} onCommit={(range) => onShaper({ ...shaper, range })} />
      <ChoiceField
        label="Beyond it"
        value={shaper.how}
        choices={[
          ["clamp", "stays at the end"],
          ["wrap", "comes in again"],
        ]}
        onChoose={(how) => onShaper({ ...shaper, how })}
        className="col-span-2"
      />
    </>
  );
}

function DeadbandFields({ shaper, onShaper }: Fields<"deadband">) {
  return (
    <>
      <Amount label="centre" value={shaper.centre} onCommit={(centre) => onShaper({ ...shaper, centre })} />
      <Amount
        label="half width"
        value={shaper.halfWidth}
        onCommit={(halfWidth) => onShaper({ ...shaper, halfWidth })}
      />
      <Amount label="reach" value={shaper.reach} onCommit={(reach) => onShaper({ ...shaper, reach })} />
    </>
  );
}

type CurveShape = ShaperOf<"curve">["shape"];

const freshShape: { readonly [Kind in CurveShape["kind"]]: CurveShape } = {
  expo: { kind: "expo", amount: 0.4 },
  s: { kind: "s", amount: 0.8 },
  points: {
    kind: "points",
    points: [
      { x: 0, y: 0 },
      { x: 0.5, y: 0.3 },
      { x: 1, y: 1 },
    ],
  },
};

function CurveFields({ shaper, onShaper }: Fields<"curve">) {
  const { shape } = shaper;
  return (
    <>
      <ChoiceField
        label="Curve"
        value={shape.kind}
        choices={[
          ["expo", "expo"],
          ["s", "S"],
          ["points", "drawn"],
        ]}
        onChoose={(kind) => onShaper({ ...shaper, shape: freshShape[kind] })}
      />
      {shape.kind === "points" ? (
        <DrawnCurve
          points={shape.points}
          onPoints={(points) => onShaper({ ...shaper, shape: { kind: "points", points: [...points] } })}
        />
      ) : (
        <ShareField
          label="amount"
          share={shape.amount}
          low={shape.kind === "expo" ? -1 : 0}
          onCommit={(amount) => onShaper({ ...shaper, shape: { ...shape, amount } })}
          className="min-w-0"
        />
      )}
      <Ends label="range" range={shaper.range} onCommit={(range) => onShaper({ ...shaper, range })} />
    </>
  );
}

function SmoothFields({ shaper, onShaper }: Fields<"smooth">) {
  const { lagMs, quickness, span } = shaper;
  return (
    <>
      <Time label="lag at rest" ms={lagMs} onCommit={(next) => onShaper({ ...shaper, lagMs: next })} />
      <Amount
        label="quickness"
        value={quickness}
        decimals={1}
        onCommit={(next) => onShaper({ ...shaper, quickness: next })}
      />
      <Amount label="span" value={span} onCommit={(next) => onShaper({ ...shaper, span: next })} />
      <p className="caption self-end">{formatNumber(lagMsAt(lagMs, quickness, 1), 0)} ms behind at a span a second</p>
    </>
  );
}

function ThresholdFields({ shaper, onShaper }: Fields<"threshold">) {
  return (
    <>
      <Amount label="on from" value={shaper.on} onCommit={(on) => onShaper({ ...shaper, on })} />
      <Amount label="off from" value={shaper.off} onCommit={(off) => onShaper({ ...shaper, off })} />
      <Time label="lasting" ms={shaper.dwellMs} onCommit={(dwellMs) => onShaper({ ...shaper, dwellMs })} />
    </>
  );
}

function PressFields({ shaper, onShaper }: Fields<"press">) {
  return (
    <>
      <ChoiceField
        label="A press that is"
        value={shaper.which}
        choices={[
          ["short", "short"],
          ["long", "long"],
        ]}
        onChoose={(which) => onShaper({ ...shaper, which })}
      />
      <Time label="long from" ms={shaper.longMs} onCommit={(longMs) => onShaper({ ...shaper, longMs })} />
    </>
  );
}

function CombineFields({ shaper, sources, onShaper }: Fields<"combine">) {
  return (
    <>
      <OtherField
        label="with"
        id={shaper.sourceId}
        among={sources}
        onChoose={(sourceId) => onShaper({ ...shaper, sourceId })}
      />
      <ChoiceField
        label="as"
        value={shaper.how}
        choices={[
          ["sum", "sum"],
          ["product", "product"],
          ["larger", "the larger"],
          ["mix", "mix"],
        ]}
        onChoose={(how) => onShaper({ ...shaper, how })}
      />
      {shaper.how === "mix" ? (
        <ShareField
          label="its part"
          share={shaper.share}
          onCommit={(share) => onShaper({ ...shaper, share })}
          className="min-w-0"
        />
      ) : (
        <span />
      )}
      <Ends label="as" range={shaper.to} onCommit={(to) => onShaper({ ...shaper, to })} />
    </>
  );
}

function SelectFields({ shaper, sources, onShaper }: Fields<"select">) {
  return (
    <>
      <OtherField
        label="while this is on"
        id={shaper.switchId}
        among={sources.filter(isSwitch)}
        onChoose={(switchId) => onShaper({ ...shaper, switchId })}
      />
      <OtherField
        label="take"
        id={shaper.sourceId}
        among={sources}
        onChoose={(sourceId) => onShaper({ ...shaper, sourceId })}
      />
      <Ends label="as" range={shaper.to} onCommit={(to) => onShaper({ ...shaper, to })} />
    </>
  );
}

interface AmountProps {
  readonly label: string;
  readonly value: number;
  readonly decimals?: number;
  readonly onCommit: (value: number) => string | null;
}

const Amount = ({ decimals = 2, ...amount }: AmountProps) => (
  <QuantityField unit="" decimals={decimals} className="min-w-0" {...amount} />
);

interface TimeProps {
  readonly label: string;
  readonly ms: number;
  readonly onCommit: (ms: number) => string | null;
}

const Time = ({ label, ms, onCommit }: TimeProps) => (
  <QuantityField
    label={label}
    value={ms}
    unit="ms"
    decimals={0}
    units={{ ms: 1, s: 1000 }}
    onCommit={onCommit}
    className="min-w-0"
  />
);

interface EndsProps {
  readonly label: string;
  readonly range: { readonly low: number; readonly high: number };
  readonly onCommit: (range: { low: number; high: number }) => string | null;
}

const Ends = ({ label, range, onCommit }: EndsProps) => (
  <>
    <Amount label={`${label} low`} value={range.low} onCommit={(low) => onCommit({ ...range, low })} />
    <Amount label={`${label} high`} value={range.high} onCommit={(high) => onCommit({ ...range, high })} />
  </>
);

interface OtherFieldProps {
  readonly label: string;
  readonly id: string;
  readonly among: readonly Source[];
  readonly onChoose: (id: string) => void;
}

const OtherField = ({ label, id, among, onChoose }: OtherFieldProps) => (
  <ChoiceField
    label={label}
    value={id}
    choices={among.map((one) => [one.id, one.label] as const)}
    onChoose={onChoose}
    className="col-span-2"
  />
);
