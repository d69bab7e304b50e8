import {
  type Assembly,
  bearingOf,
  carriesG,
  loadAt,
  mayHoldNmm,
  nmmPerKgCm,
  stallTorqueNmm,
  Weights,
} from "@core/figure";
import { changeFigure, type Figure, homeTargetOf, type Joint } from "@core/project";
import { editForField, projectNow, useProject } from "@stores/document";
import { figureView, useFigureView } from "@stores/figureView";
import { askFigure } from "@stores/figureWork";
import { ghostNow, onGhost, showGhost } from "@stores/ghost";
import { onLive, pace } from "@stores/live";
import { useEffect, useMemo, useState } from "react";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { actualOf } from "./liveTargets";
import type { Scene } from "./useScene";

interface WeightPanelProps {
  readonly figure: Figure;
  readonly scene: Scene;
  readonly onCloud: (kind: "carry" | null) => void;
  readonly showsCarry: boolean;
}

interface Row {
  readonly joint: Joint;
  readonly holdsNmm: number;
  readonly share: number | null;
}

type WorstOf = Readonly<
  Record<string, { readonly torqueNmm: number; readonly targets: Readonly<Record<string, number>> }>
>;

/** What each servo has to hold: where the figure stands now (or its ghost), and at worst anywhere within its limits. */
export function WeightPanel({ figure, scene, onCloud, showsCarry }: WeightPanelProps) {
  const project = useProject((current) => current);
  const carriedG = useFigureView((view) => view.carriedG);
  const tipId = useFigureView((view) => view.tipId);
  const tip = figure.tips.find(({ id }) => id === tipId) ?? figure.tips.find(({ does }) => does === "reach") ?? null;
  const targets = useTargets(scene);
  const weights = useMemo(() => new Weights(project, scene.assembly), [project, scene]);
  const own = jointsOfFigure(scene.assembly, figure, project.joints);
  const rows = useMemo((): readonly Row[] => {
    weights.carry(tip ? [loadAt(tip, carriedG)] : []);
    const torques = weights.holding(targets);
    return own.map((joint) => {
      const holdsNmm = torques[project.joints.indexOf(joint)] as number;
      return { joint, holdsNmm, share: bearingOf(project, joint, holdsNmm).share };
    });
  }, [weights, targets, tip, carriedG, own, project]);
  const worst = useWorst(tip?.id ?? null, carriedG);
  const canCarryG = tip
    ? carriesG(weights, targets, { partId: tip.partId, atMm: tip.place.atMm }, mayHoldNmm(project, scene.assembly))
    : Number.NaN;
  const kgCm = (nmm: number) => formatNumber(Math.abs(nmm) / nmmPerKgCm, 2);
  return (
    <div className="flex flex-col gap-3">
      <div className="grid grid-cols-2 gap-2">
        <QuantityField
          label={tip ? `Carried by ${tip.label}` : "Carried (add a tip first)"}
          value={carriedG}
          unit="g"
          units={{ g: 1, kg: 1000 }}
          decimals={1}
          step={10}
          onCommit={(next) => {
            if (!(next >= 0 && next <= 100_000)) return "Between 0 g and 100 kg.";
            figureView.setState({ carriedG: next });
            return null;
          }}
        />
        <QuantityField
          label="Servos may use"
          value={figure.useShare * 100}
          unit="%"
          decimals={0}
          step={5}
          onCommit={(percent) =>
            editForField(changeFigure(figure.id, "what servos may use", (one) => ({ ...one, useShare: percent / 100 })))
          }
        />
      </div>
      <table className="w-full text-sm">
        <thead>
          <tr className="caption text-left">
            <th className="font-normal">Joint, kg·cm</th>
            <th className="text-right font-normal">now</th>
            <th className="text-right font-normal">at worst</th>
            <th className="text-right font-normal">can</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ joint, holdsNmm, share }) => {
            const heaviest = worst?.[joint.id];
            const can = stallOf(joint);
            return (
              <tr key={joint.id} className="border-t border-base-300">
                <td className="py-1">
                  {joint.label}
                  <Bar share={share} worst={can && heaviest ? heaviest.torqueNmm / can : null} may={figure.useShare} />
                </td>
                <td className={`number text-right ${isTooMuch(share, figure) ? "font-bold text-error" : ""}`}>
                  {kgCm(holdsNmm)}
                </td>
                <td className="number text-right">
                  {heaviest && can !== undefined ? (
                    <button
                      type="button"
                      className={`cursor-pointer underline decoration-dotted ${isTooMuch(can ? heaviest.torqueNmm / can : null, figure) ? "text-error" : ""}`}
                      title="Show where"
                      onClick={() => showGhost(onlyOf(own, heaviest.targets))}
                    >
                      {kgCm(heaviest.torqueNmm)}
                    </button>
                  ) : (
                    "…"
                  )}
                </td>
                <td className="number text-right">{can ? kgCm(can) : "?"}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <ul className="flex flex-col gap-1 text-sm" aria-label="Verdicts" role="status">
        {rows.map(({ joint, share }) => (
          <Sentence
            key={joint.id}
            joint={joint}
            share={share}
            figure={figure}
            carriedG={carriedG}
            worst={worst?.[joint.id]?.torqueNmm ?? null}
          />
        ))}
        {tip && Number.isFinite(canCarryG) && (
          <li>
            {tip.label} can carry <b>{formatNumber(canCarryG, 0)} g</b> where it stands now, its servos at no more than{" "}
            {formatNumber(figure.useShare * 100, 0)} %.
          </li>
        )}
      </ul>
      {tip && (
        <label className="flex cursor-pointer items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={showsCarry}
            onChange={() => onCloud(showsCarry ? null : "carry")}
          />
          Show what it can carry all over its reach: green much, red little
        </label>
      )}
      <p className="caption">
        Masses and lengths are those of the parts, torques those of the cards at their rated voltage.
      </p>
    </div>
  );
}

/** The targets of these joints alone: what is shown may be sent, and then it moves no other. */
const onlyOf = (
  joints: readonly Joint[],
  targets: Readonly<Record<string, number>>,
): Readonly<Record<string, number>> => Object.fromEntries(joints.map(({ id }) => [id, targets[id] as number]));

const isTooMuch = (share: number | null, figure: Figure): boolean => share !== null && share > figure.useShare + 1e-9;

function stallOf(joint: Joint): number | null {
  const card = projectNow().cards.find(({ id }) => id === joint.cardId);
  return card ? stallTorqueNmm(card, null) : null;
}

interface SentenceProps {
  readonly joint: Joint;
  readonly share: number | null;
  readonly figure: Figure;
  readonly carriedG: number;
  readonly worst: number | null;
}

function Sentence({ joint, share, figure, carriedG, worst }: SentenceProps) {
  const can = stallOf(joint);
  if (share === null)
    return <li className="text-warning">The card of {joint.label} gives no torque: nothing can be said of it.</li>;
  const carrying = carriedG > 0 ? ` with ${formatNumber(carriedG, 0)} g` : "";
  if (share > 1)
    return (
      <li className="text-error">
        {joint.label} cannot hold this{carrying}: it is {formatNumber(share, 1)} times what its servo can.
      </li>
    );
  if (isTooMuch(share, figure))
    return (
      <li className="text-warning">
        {joint.label} holds {formatNumber(share, 2)} of what it can{carrying}: more than the{" "}
        {formatNumber(figure.useShare * 100, 0)} % that it may.
      </li>
    );
  if (can && worst !== null && worst > can)
    return (
      <li className="text-warning">
        {joint.label} holds this, but not everything within its limits{carrying}: at worst{" "}
        {formatNumber(worst / can, 1)} times what it can.
      </li>
    );
  return null;
}

function Bar({
  share,
  worst,
  may,
}: {
  readonly share: number | null;
  readonly worst: number | null;
  readonly may: number;
}) {
  const wide = (value: number | null) => `${Math.min(100, (value ?? 0) * 100).toFixed(1)}%`;
  return (
    <span className="relative mt-0.5 block h-1.5 w-28 bg-base-300" aria-hidden="true">
      <span className="absolute inset-y-0 left-0 bg-base-content/30" style={{ width: wide(worst) }} />
      <span
        className={`absolute inset-y-0 left-0 ${(share ?? 0) > may ? "bg-error" : "bg-primary"}`}
        style={{ width: wide(share) }}
      />
      <span className="absolute -inset-y-0.5 w-0.5 bg-base-content" style={{ left: wide(may) }} />
    </span>
  );
}

/** The joints that move a part of this figure. */
function jointsOfFigure(assembly: Assembly, figure: Figure, joints: readonly Joint[]): readonly Joint[] {
  const places = new Set(
    assembly.parts.flatMap((_, place) =>
      assembly.figureOf[place]?.id === figure.id ? [assembly.movers[place] as number] : [],
    ),
  );
  return joints.filter((_, place) => places.has(place));
}

/** Where all joints stand, or the ghost has them; no oftener than words can be read, and only when it has changed. */
function useTargets(scene: Scene): Float64Array {
  const read = () =>
    Float64Array.from(scene.joints, (joint) => Math.round((ghostNow()?.[joint.id] ?? actualOf(joint)) * 2) / 2);
  const [targets, setTargets] = useState(read);
  useEffect(() => {
    const look = () =>
      setTargets((old) => {
        const next = Float64Array.from(scene.joints, (joint) => ghostNow()?.[joint.id] ?? actualOf(joint));
        const isSame =
          next.length === old.length && next.every((value, at) => Math.abs(value - (old[at] as number)) < 0.4);
        return isSame ? old : next;
      });
    look();
    const stops = [onLive(look, pace.words), onGhost(look)];
    return () => {
      for (const stop of stops) stop();
    };
  }, [scene]);
  return targets;
}

/** The worst of all stances, worked out in the worker after each change. */
function useWorst(tipId: string | null, carriedG: number): WorstOf | null {
  const [worst, setWorst] = useState<WorstOf | null>(null);
  const figures = useProject((project) => project.figures);
  const cards = useProject((project) => project.cards);
  const joints = useProject((project) => project.joints);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it is worked out from is what it waits for.
  useEffect(() => {
    setWorst(null);
    const project = projectNow();
    return askFigure(project, { kind: "worst", tipId, carriedG, homes: project.joints.map(homeTargetOf) }, (news) => {
      if (news.kind === "worst") setWorst(news.worst);
    });
  }, [figures, cards, joints, tipId, carriedG]);
  return worst;
}
