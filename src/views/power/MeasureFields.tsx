import { amps, type MeasureStep, measureGuide } from "@core/power";
import { byId, type Project, setCurrent } from "@core/project";
import { currentUnitsMa } from "@core/signal";
import { edit, editForField } from "@stores/document";
import { command, liveJoint, liveSource, useEveryTick } from "@stores/live";
import { useCallback, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatDate, formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { QuantityField } from "../parts/QuantityField";

interface MeasureFieldsProps {
  readonly project: Project;
  readonly jointId: string;
}

const typed = "typed";
const board = "board";

/** A guided way to measure what a servo draws: where, with which range, what to do; typed, or taken from its board or from a meter's line. */
export function MeasureFields({ project, jointId }: MeasureFieldsProps) {
  useEveryTick();
  const joint = byId(project.joints, jointId);
  const card = byId(project.cards, joint.cardId);
  const { where, steps } = measureGuide(project, jointId);
  const canRead = card.kind !== "continuous" && card.feedback !== null;
  const lines = project.sources.filter(({ origin }) => origin.kind === "line");
  const [from, setFrom] = useState<string>(canRead ? board : typed);
  const read = useCallback(
    () => (from === typed ? Number.NaN : from === board ? liveJoint(jointId, "currentMa") : liveSource(from)),
    [from, jointId],
  );
  const say = useCallback(() => `${formatNumber(read(), 0)} mA`, [read]);
  return (
    <details data-measure>
      <summary className="heading cursor-pointer text-sm">Measure it</summary>
      <div className="mt-1 flex flex-col gap-2">
        <p className="text-sm">{where}</p>
        <div className="flex items-end gap-2">
          <ChoiceField
            label="The number comes from"
            value={from}
            choices={[
              [typed, "a meter, typed"],
              ...(canRead ? [[board, "its board"] as const] : []),
              ...lines.map(({ id, label }) => [id, `the line of ${label}, in mA`] as const),
            ]}
            onChoose={setFrom}
            className="grow"
          />
          {from !== typed && <LiveText read={say} className="pb-1 text-lg" />}
        </div>
        <ol className="space-y-2">
          {steps.map((step) => (
            <Step
              key={step.reading}
              step={step}
              measuredMa={card.currents[step.field]}
              onTurn={step.reading === "moving" ? () => turn(project, jointId) : null}
              onTake={from === typed ? null : () => take(card.id, step, read())}
              onCommit={(ma) => editForField(setCurrent(card.id, step.field, ma, new Date().toISOString()))}
            />
          ))}
        </ol>
        {card.currents.measuredAt && <p className="caption">Last measured {formatDate(card.currents.measuredAt)}.</p>}
      </div>
    </details>
  );
}

function take(cardId: string, { field }: MeasureStep, ma: number): void {
  if (Number.isFinite(ma)) edit(setCurrent(cardId, field, Math.round(ma), new Date().toISOString()));
}

/** Sends it to the other end of the middle half of its travel, by the usual road. */
function turn({ joints }: Project, jointId: string): void {
  const { axis } = byId(joints, jointId);
  if (axis.kind === "spin") {
    command({ kind: "target", jointId, target: liveJoint(jointId, "target") > 0 ? -0.5 : 0.5 });
    return;
  }
  const { low, high } = axis.travel;
  const middle = (low + high) / 2;
  const quarter = (high - low) / 4;
  command({
    kind: "target",
    jointId,
    target: liveJoint(jointId, "target") > middle ? middle - quarter : middle + quarter,
  });
}

/** How a measured current stands to what the model says. */
function againstModel(measuredA: number, modelA: number): string {
  const times = measuredA / modelA;
  return Math.abs(times - 1) < 0.05 ? "much the same" : `${times.toFixed(times < 0.1 ? 2 : 1)} times that`;
}

interface StepProps {
  readonly step: MeasureStep;
  readonly measuredMa: number | null;
  readonly onTurn: (() => void) | null;
  readonly onTake: (() => void) | null;
  readonly onCommit: (ma: number) => string | null;
}

function Step({ step, measuredMa, onTurn, onTake, onCommit }: StepProps) {
  const { name, does, rangeA, expectedA, modelA } = step;
  return (
    <li>
      <p className="text-sm">
        <b>{name}</b>: range {amps(rangeA)}. {does}
      </p>
      <div className="mt-1 flex items-end gap-2">
        <QuantityField
          label={`Seen ${name}`}
          value={measuredMa ?? Number.NaN}
          unit="mA"
          units={currentUnitsMa}
          decimals={0}
          emptyWords={`about ${amps(expectedA)} by its rating`}
          onEmpty={() => null}
          onCommit={onCommit}
          className="grow"
        />
        {onTurn && (
          <button type="button" className="btn btn-xs btn-outline mb-1" onClick={onTurn}>
            To and fro
          </button>
        )}
        {onTake && (
          <button
            type="button"
            className="btn btn-xs btn-primary mb-1"
            aria-label={`It stands: take it as ${name}`}
            onClick={onTake}
          >
            It stands
          </button>
        )}
      </div>
      {measuredMa !== null && (
        <p className="caption" data-model={step.reading}>
          Its rating alone would say {amps(modelA)}: measured {againstModel(measuredMa / 1000, modelA)}.
        </p>
      )}
    </li>
  );
}
