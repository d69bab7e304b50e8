import { editCard, type ServoCard, setPointUnit } from "@core/project";
import { ratedSpeedDegPerS } from "@core/servo";
import { currentUnitsMa, torqueUnitsKgCm } from "@core/signal";
import { edit, editForField } from "@stores/document";
import { Fetched } from "../parts/Fetched";
import { formatNumber } from "../parts/format";
import { lazily } from "../parts/lazily";
import { QuantityField } from "../parts/QuantityField";

type Change = (card: ServoCard) => ServoCard;

// With it come the families of smart servos, which most cards have no need of.
const FamilyField = lazily(() => import("./FamilyField"));

interface FieldProps {
  readonly card: ServoCard;
  readonly label: string;
  readonly value: number | null;
  readonly unit: string;
  readonly decimals?: number;
  readonly units?: Readonly<Record<string, number>>;
  readonly take: (value: number) => Change;
}

/** One number of a card; what no servo can have is refused in words. */
export function CardField({ card, label, value, unit, decimals = 0, units, take }: FieldProps) {
  return (
    <QuantityField
      label={label}
      value={value ?? Number.NaN}
      unit={unit}
      decimals={decimals}
      {...(units && { units })}
      onCommit={(next) => editForField(editCard(card.id, label.toLowerCase(), take(next)))}
      className="min-w-0"
    />
  );
}

/** What the data sheet says. */
export function RatingFields({ card }: { readonly card: ServoCard }) {
  const unit = setPointUnit(card);
  const rated =
    (field: "secPer60Deg" | "atVolts" | "torqueKgCm" | "stallMa") => (value: number) => (before: ServoCard) => ({
      ...before,
      rating: { ...before.rating, [field]: value },
    });
  const volts = (field: "low" | "high") => (value: number) => (before: ServoCard) => {
    const known = before.rating.supplyVolts ?? { low: before.rating.atVolts * 0.9, high: before.rating.atVolts * 1.1 };
    return { ...before, rating: { ...before.rating, supplyVolts: { ...known, [field]: value } } };
  };
  const nominal = (field: string) => (value: number) => (before: ServoCard) =>
    ({ ...before, nominal: { ...before.nominal, [field]: value } }) as ServoCard;
  return (
    <section className="sheet p-3" aria-label="Rating">
      <h2 className="heading">By its data sheet</h2>
      <div className="mt-1 grid grid-cols-3 gap-x-3 gap-y-2">
        <CardField
          card={card}
          label="Speed, per 60°"
          value={card.rating.secPer60Deg}
          unit="s"
          decimals={3}
          units={{ s: 1, ms: 0.001 }}
          take={rated("secPer60Deg")}
        />
        {card.kind !== "continuous" && (
          <CardField
            card={card}
            label="Acceleration"
            value={card.rating.accelDegPerS2}
            unit="°/s²"
            take={(value) => (before) => ({
              ...before,
              // Nobody knows, again.
              rating: { ...before.rating, accelDegPerS2: value === 0 ? null : value },
            })}
          />
        )}
        <CardField card={card} label="At" value={card.rating.atVolts} unit="V" decimals={1} take={rated("atVolts")} />
        <CardField
          card={card}
          label="Torque"
          value={card.rating.torqueKgCm}
          unit="kg·cm"
          decimals={1}
          units={torqueUnitsKgCm}
          take={rated("torqueKgCm")}
        />
        <CardField
          card={card}
          label="Stall current"
          value={card.rating.stallMa}
          unit="mA"
          units={currentUnitsMa}
          take={rated("stallMa")}
        />
        <CardField
          card={card}
          label="Supply from"
          value={card.rating.supplyVolts?.low ?? null}
          unit="V"
          decimals={1}
          take={volts("low")}
        />
        <CardField
          card={card}
          label="Supply to"
          value={card.rating.supplyVolts?.high ?? null}
          unit="V"
          decimals={1}
          take={volts("high")}
        />
        {card.kind === "continuous" ? (
          <>
            <CardField card={card} label="Full back" value={card.nominal.back} unit={unit} take={nominal("back")} />
            <CardField card={card} label="Neutral" value={card.nominal.neutral} unit={unit} take={nominal("neutral")} />
            <CardField
              card={card}
              label="Full forward"
              value={card.nominal.forward}
              unit={unit}
              take={nominal("forward")}
            />
          </>
        ) : (
          <>
            <CardField
              card={card}
              label="Travel"
              value={card.travelDeg}
              unit="°"
              take={(travelDeg) => (before) => (before.kind === "continuous" ? before : { ...before, travelDeg })}
            />
            <CardField card={card} label="Set point at 0°" value={card.nominal.low} unit={unit} take={nominal("low")} />
            <CardField
              card={card}
              label="At full travel"
              value={card.nominal.high}
              unit={unit}
              take={nominal("high")}
            />
          </>
        )}
        <CardField
          card={card}
          label="Deadband"
          value={card.deadband}
          unit={unit}
          decimals={1}
          take={(deadband) => (before) => ({ ...before, deadband })}
        />
        <CardField
          card={card}
          label="Spline teeth"
          value={card.splineTeeth}
          unit="teeth"
          take={(splineTeeth) => (before) => ({ ...before, splineTeeth })}
        />
        <CardField
          card={card}
          label="Frames up to"
          value={card.frameHz.high}
          unit="Hz"
          take={(high) => (before) => ({ ...before, frameHz: { ...before.frameHz, high } })}
        />
      </div>
      <p className="caption mt-2">
        {formatNumber(ratedSpeedDegPerS(card), 0)} °/s; {formatNumber(card.rating.torqueKgCm * 0.0981, 3)} N·m; one
        tooth of the spline is {formatNumber(360 / card.splineTeeth, 1)}°.
      </p>
      {card.kind === "smart" && (
        <Fetched>
          <FamilyField card={card} />
        </Fetched>
      )}
      {card.kind === "positional" && (
        <label className="mt-2 flex cursor-pointer items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={card.feedback !== null}
            onChange={(event) =>
              edit(
                editCard(card.id, "feedback", (before) =>
                  before.kind === "positional"
                    ? { ...before, feedback: event.target.checked ? { unit: "counts", points: [] } : null }
                    : before,
                ),
              )
            }
          />
          it has a feedback wire that its board reads
        </label>
      )}
    </section>
  );
}
