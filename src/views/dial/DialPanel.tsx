import { heldBackWords } from "@core/gate";
import type { JointBench } from "@stores/jointBench";
import { liveJoint, onLive, useLive } from "@stores/live";
import { type ComponentProps, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { calm } from "../parts/draw";
import { formatIn, formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { Dial } from "./Dial";
import { type OuterUnit, outerUnitsOf } from "./outerScale";

interface DialPanelProps {
  readonly bench: JointBench;
  readonly aim?: ComponentProps<typeof Dial>["aim"];
  readonly className?: string;
}

/** The dial with what belongs to it: target against actual as numbers, the outer scale's unit, the protractor. */
export function DialPanel({ bench, aim, className }: DialPanelProps) {
  const [outerUnit, setOuterUnit] = useState<OuterUnit>("set point");
  const [hasProtractor, setHasProtractor] = useState(false);
  const { card, maker } = bench;
  const units = outerUnitsOf(bench);
  const shownUnit = units.includes(outerUnit) ? outerUnit : "set point";
  const names: Record<OuterUnit, string> = {
    "set point": "µs",
    duty: "%",
    number: /^[a-z]+$/.test(maker.countName) ? `${maker.countName}s` : maker.countName,
  };
  return (
    <section className={`flex min-h-0 flex-col ${className ?? ""}`} aria-label="Dial">
      <Dial
        bench={bench}
        outerUnit={shownUnit}
        hasProtractor={hasProtractor}
        {...(aim && { aim })}
        className="mx-auto min-h-0 w-full grow"
      />
      <DialReadout bench={bench} />
      <div className="mt-1 flex items-center justify-center gap-4">
        {card.kind !== "smart" && (
          <fieldset className="flex items-center gap-2">
            <legend className="sr-only">Outer scale</legend>
            {units.map((unit) => (
              <label key={unit} className="caption flex cursor-pointer items-center gap-1">
                <input
                  type="radio"
                  name="outer-scale"
                  className="radio radio-xs"
                  checked={unit === shownUnit}
                  onChange={() => setOuterUnit(unit)}
                />
                {names[unit]}
              </label>
            ))}
          </fieldset>
        )}
        {card.kind !== "continuous" && (
          <label className="caption flex cursor-pointer items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={hasProtractor}
              onChange={() => setHasProtractor(!hasProtractor)}
            />
            protractor
          </label>
        )}
      </div>
    </section>
  );
}

/** Target, actual and the difference between them, large; under them what the gate held back, if anything. */
function DialReadout({ bench: { joint, map } }: { readonly bench: JointBench }) {
  const unit = map.targetUnit;
  const isSpin = unit === "spin";
  // A speed of three digits, its sign and its unit have to stand on one line.
  const box = `block h-9 ${isSpin ? "w-44" : "w-32"}`;
  const readTarget = useCallback(
    () => (liveJoint(joint.id, "isHeld") === 1 ? formatIn(liveJoint(joint.id, "target"), unit) : "limp"),
    [joint.id, unit],
  );
  const spinSeen = useSpinSeen(joint.id, isSpin);
  const readActual = useMemo(() => {
    const calmly = calm();
    return () =>
      isSpin ? `${formatNumber(spinSeen.current, 0)} °/s` : formatIn(calmly(liveJoint(joint.id, "actual")), "°");
  }, [joint.id, isSpin, spinSeen]);
  const readLag = useMemo(() => {
    const calmly = calm();
    return () =>
      liveJoint(joint.id, "isHeld") === 1
        ? formatIn(calmly(liveJoint(joint.id, "target") - liveJoint(joint.id, "actual")), "°")
        : "—";
  }, [joint.id]);
  return (
    <div className="text-center" data-readout="dial">
      <dl className="flex items-end justify-center gap-2">
        <div>
          <dt className="caption flex items-center justify-center gap-1">
            <svg viewBox="-9 -13 18 26" className="h-4" aria-hidden="true">
              <path d="M0 -12L7 -2L7 11L0 5L-7 11L-7 -2Z" className="fill-none stroke-primary" strokeWidth={2} />
            </svg>
            target
          </dt>
          <dd>
            <LiveText read={readTarget} box={box} className="text-[2rem] leading-none font-medium text-primary" />
          </dd>
        </div>
        <div>
          <dt className="caption flex items-center justify-center gap-1">
            <svg viewBox="-9 -13 18 26" className="h-4" aria-hidden="true">
              <path d="M-3.5 12L0 -12L3.5 12Z" className="fill-base-content" />
            </svg>
            actual
          </dt>
          <dd>
            <LiveText read={readActual} box={box} className="text-[2rem] leading-none font-medium" />
          </dd>
        </div>
        {!isSpin && (
          <div>
            <dt className="caption">difference</dt>
            <dd>
              <LiveText read={readLag} box="block h-9 w-24" className="pt-1.5 text-[1.3rem] leading-tight" />
            </dd>
          </div>
        )}
      </dl>
      <HeldBackWords jointId={joint.id} />
    </div>
  );
}

/** The turning speed of a continuous servo as seen, in °/s, averaged over about a third of a second. */
function useSpinSeen(jointId: string, isSpin: boolean) {
  const seen = useRef(0);
  useEffect(() => {
    if (!isSpin) return;
    let since = performance.now();
    let fromDeg = liveJoint(jointId, "actual");
    return onLive(() => {
      const nowMs = performance.now();
      if (nowMs - since < 330) return;
      const toDeg = liveJoint(jointId, "actual");
      seen.current = ((toDeg - fromDeg) * 1000) / (nowMs - since);
      since = nowMs;
      fromDeg = toDeg;
    });
  }, [jointId, isSpin]);
  return seen;
}

function HeldBackWords({ jointId }: { readonly jointId: string }) {
  const reason = useLive(useCallback(() => liveJoint(jointId, "heldBack"), [jointId]));
  const isStalled = useLive(useCallback(() => liveJoint(jointId, "isStalled") === 1, [jointId]));
  const words = heldBackWords[reason as keyof typeof heldBackWords];
  return (
    <p className="mt-0.5 min-h-5 text-sm" aria-live="polite">
      {isStalled ? (
        <span className="font-semibold text-error">It hums: it pushes against its own end stop. Back off.</span>
      ) : (
        words && <span className="text-warning">Gate: {words}</span>
      )}
    </p>
  );
}
