import { lagMsAt } from "@core/inputs";
import { isSwitch, type Shaper, type Source } from "@core/project";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { ShareField } from "../parts/ShareField";
import { DrawnCurve } from "./DrawnCurve";

interface ShaperFieldsProps {
  readonly shaper: Shaper;
  /** The other sources, for those that look at one. */
  readonly sources: readonly Source[];
  /** Takes the changed shaper; gives a sentence where it cannot be. */
  readonly onShaper: (shaper: Shaper) => string | null;
}

/** The numbers of one shaper. */
export function ShaperFields({ shaper, sources, onShaper }: ShaperFieldsProps) {
  const number = (label: string, value: number, take: (value: number) => Shaper, unit = "", decimals = 2) => (
    <QuantityField
      label={label}
      value={value}
      unit={unit}
      decimals={decimals}
      {...(unit === "ms" && { units: { ms: 1, s: 1000 } })}
      onCommit={(next) => onShaper(take(next))}
      className="min-w-0"
    />
  );
  const ends = (
    label: string,
    range: { low: number; high: number },
    take: (range: { low: number; high: number }) => Shaper,
  ) => (
    <>
      {number(`${label} low`, range.low, (low) => take({ ...range, low }))}
      {number(`${label} high`, range.high, (high) => take({ ...range, high }))}
    </>
  );
  const other = (label: string, id: string, among: readonly Source[], take: (id: string) => Shaper) => (
    <ChoiceField
      label={label}
      value={id}
      choices={among.map((one) => [one.id, one.label] as const)}
      onChoose={(next) => onShaper(take(next))}
      className="col-span-2"
    />
  );
  return <div className="grid grid-cols-2 gap-2">{fields()}</div>;

  function fields() {
    switch (shaper.kind) {
      case "rangeMap":
        return (
          <>
            {ends("from", shaper.from, (from) => ({ ...shaper, from }))}
            {ends("to", shaper.to, (to) => ({ ...shaper, to }))}
            <button
              type="button"
              className="btn btn-outline btn-xs col-span-2"
              onClick={() => onShaper({ ...shaper, to: { low: shaper.to.high, high: shaper.to.low } })}
            >
              Turn it round
            </button>
          </>
        );
      case "limit":
        return (
          <>
            {ends("range", shaper.range, (range) => ({ ...shaper, range }))}
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
      case "deadband":
        return (
          <>
            {number("centre", shaper.centre, (centre) => ({ ...shaper, centre }))}
            {number("half width", shaper.halfWidth, (halfWidth) => ({ ...shaper, halfWidth }))}
            {number("reach", shaper.reach, (reach) => ({ ...shaper, reach }))}
          </>
        );
      case "curve":
        return (
          <>
            <ChoiceField
              label="Curve"
              value={shaper.shape.kind}
              choices={[
                ["expo", "expo"],
                ["s", "S"],
                ["points", "drawn"],
              ]}
              onChoose={(kind) => onShaper({ ...shaper, shape: freshShape[kind] })}
            />
            {shaper.shape.kind === "points" ? (
              <DrawnCurve
                points={shaper.shape.points}
                onPoints={(points) => onShaper({ ...shaper, shape: { kind: "points", points: [...points] } })}
              />
            ) : (
              <ShareField
                label="amount"
                share={shaper.shape.amount}
                low={shaper.shape.kind === "expo" ? -1 : 0}
                onCommit={(amount) => onShaper({ ...shaper, shape: { ...shaper.shape, amount } } as Shaper)}
                className="min-w-0"
              />
            )}
            {ends("range", shaper.range, (range) => ({ ...shaper, range }))}
          </>
        );
      case "smooth":
        return (
          <>
            {number("lag at rest", shaper.lagMs, (lagMs) => ({ ...shaper, lagMs }), "ms", 0)}
            {number("quickness", shaper.quickness, (quickness) => ({ ...shaper, quickness }), "", 1)}
            {number("span", shaper.span, (span) => ({ ...shaper, span }))}
            <p className="caption self-end">
              {formatNumber(lagMsAt(shaper.lagMs, shaper.quickness, 1), 0)} ms behind at a span a second
            </p>
          </>
        );
      case "change":
        return number("passes from", shaper.by, (by) => ({ ...shaper, by }));
      case "rate":
        return number("at most a second", shaper.perS, (perS) => ({ ...shaper, perS }));
      case "detents":
        return number(
          "steps a detent",
          shaper.stepsPerDetent,
          (stepsPerDetent) => ({ ...shaper, stepsPerDetent }),
          "",
          0,
        );
      case "threshold":
        return (
          <>
            {number("on from", shaper.on, (on) => ({ ...shaper, on }))}
            {number("off from", shaper.off, (off) => ({ ...shaper, off }))}
            {number("lasting", shaper.dwellMs, (dwellMs) => ({ ...shaper, dwellMs }), "ms", 0)}
          </>
        );
      case "toggle":
        return <p className="caption col-span-2">Each switching on turns it over.</p>;
      case "latch":
        return number("stays on for", shaper.holdMs, (holdMs) => ({ ...shaper, holdMs }), "ms", 0);
      case "press":
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
            {number("long from", shaper.longMs, (longMs) => ({ ...shaper, longMs }), "ms", 0)}
          </>
        );
      case "sample":
        return other("taken when this switches on", shaper.whenSourceId, sources.filter(isSwitch), (whenSourceId) => ({
          ...shaper,
          whenSourceId,
        }));
      case "add":
        return number("adds", shaper.by, (by) => ({ ...shaper, by }));
      case "scale":
        return number("times", shaper.by, (by) => ({ ...shaper, by }), "", 3);
      case "combine":
        return (
          <>
            {other("with", shaper.sourceId, sources, (sourceId) => ({ ...shaper, sourceId }))}
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
            {ends("as", shaper.to, (to) => ({ ...shaper, to }))}
          </>
        );
      case "select":
        return (
          <>
            {other("while this is on", shaper.switchId, sources.filter(isSwitch), (switchId) => ({
              ...shaper,
              switchId,
            }))}
            {other("take", shaper.sourceId, sources, (sourceId) => ({ ...shaper, sourceId }))}
            {ends("as", shaper.to, (to) => ({ ...shaper, to }))}
          </>
        );
    }
  }
}

const freshShape = {
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
} as const;
