import { type Meeting, meetingWords, placeOfFrame } from "@core/figure";
import { addPose, type Figure, type Project, setMayTouch } from "@core/project";
import type { Vector } from "@core/shapes";
import { edit, newId, useProject } from "@stores/document";
import { figureView, useFigureView } from "@stores/figureView";
import { ghostNow, showGhost } from "@stores/ghost";
import { command, onLive, pace } from "@stores/live";
import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { type Hand, handStore, moveMsTo } from "./hand";
import { VectorFields } from "./VectorFields";

interface HandPanelProps {
  readonly figure: Figure;
  readonly hand: Hand | null;
}

/** A tip taken by the hand: where it is, how it is moved, what it meets, and what becomes of it. */
export function HandPanel({ figure, hand }: HandPanelProps) {
  const project = useProject((current) => current);
  const { reached, meetings } = useStore(handStore);
  const keepsDirection = useFigureView((view) => view.keepsDirection);
  const showsReach = useFigureView((view) => view.showsReach);
  useWhereItStands(hand);
  if (!hand)
    return (
      <p className="caption">
        This figure has no tip yet: a place that is moved or aimed, such as a hand or a look. Add one under <b>Parts</b>
        .
      </p>
    );
  const isLook = hand.tip.does === "look";
  const ghost = ghostNow();
  const tips = figure.tips.map(({ id, label }) => [id, label] as const);
  return (
    <div className="flex flex-col gap-3">
      <ChoiceField
        label="What is taken"
        value={hand.tip.id}
        choices={tips}
        onChoose={(tipId) => figureView.setState({ tipId })}
      />
      <p className="caption">
        {isLook
          ? "Drag the diamond in the picture to where it is to look. Neck and eyes share the turn."
          : "Drag the ring in the picture; the joints follow within their limits."}{" "}
        Only the ghost moves until you send it.
      </p>
      <VectorFields
        label={isLook ? "It looks at, in mm" : "It is at, in mm"}
        value={hand.handleMm().map((value) => Math.round(value * 100) / 100) as unknown as Vector}
        unit="mm"
        step={5}
        onCommit={(atMm) => {
          hand.begin();
          hand.goTo(hand.aimAt(atMm, keepsDirection));
          return null;
        }}
      />
      {!isLook && <Directions hand={hand} />}
      <Verdict hand={hand} reached={reached} />
      <MeetingList project={project} figure={figure} meetings={meetings} hand={hand} />
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={ghost === null}
          onClick={() => {
            const targets = ghostNow();
            if (targets) command({ kind: "goTo", targets, moveMs: moveMsTo(project.joints, targets) });
          }}
        >
          Send it there
        </button>
        <button
          type="button"
          className="btn btn-sm btn-outline"
          disabled={ghost === null}
          onClick={() => captureGhost(project, figure)}
        >
          Capture as a pose
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost"
          disabled={ghost === null}
          onClick={() => {
            showGhost(null);
            hand.lookAgain();
          }}
        >
          Back to where it stands
        </button>
      </div>
      {!isLook && (
        <label className="flex cursor-pointer items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={showsReach}
            onChange={() => figureView.setState({ showsReach: !showsReach })}
          />
          Show all that it can reach: green where it goes on any way, red where it is nearly barred
        </label>
      )}
    </div>
  );
}

/** While no ghost is dragged the numbers follow the machine, as often as they can be read. */
function useWhereItStands(hand: Hand | null): void {
  useEffect(() => {
    if (!hand) return;
    let shown = hand.handleMm();
    return onLive(() => {
      if (ghostNow()) return;
      hand.begin();
      const now = hand.handleMm();
      if (now.every((value, row) => Math.abs(value - (shown[row] as number)) < 0.5)) return;
      shown = now;
      handStore.setState(({ moves }) => ({ moves: moves + 1 }));
    }, pace.words);
  }, [hand]);
}

/** The figure's joints where the ghost has them, as a pose. */
function captureGhost({ joints, poses }: Project, figure: Figure): void {
  const ghost = ghostNow();
  if (!ghost) return;
  const targets = Object.fromEntries(
    joints.flatMap(({ id, rigId }) => {
      const target = ghost[id];
      return rigId === figure.rigId && target !== undefined ? [[id, Math.round(target * 10) / 10] as const] : [];
    }),
  );
  edit(addPose({ id: newId(), name: `${figure.label} ${poses.length + 1}`, group: "", targets }));
}

/** Steps in the world's or the hand's own directions, and the ways to get there. */
function Directions({ hand }: { readonly hand: Hand }) {
  const keepsDirection = useFigureView((view) => view.keepsDirection);
  const directions = useFigureView((view) => view.directions);
  const [stepMm, setStepMm] = useState(5);
  const [ways, setWays] = useState<readonly { readonly words: string; readonly stance: Float64Array }[] | null>(null);
  const step = (axis: 0 | 1 | 2, sign: 1 | -1) => {
    hand.begin();
    const along: Vector =
      directions === "hand"
        ? hand.direction(axis)
        : ([0, 1, 2].map((row) => (row === axis ? 1 : 0)) as unknown as Vector);
    const from = hand.handleMm();
    hand.pull(
      hand.aimAt(
        from.map((value, row) => value + sign * stepMm * (along[row] as number)) as unknown as Vector,
        keepsDirection,
      ),
      true,
    );
    setWays(null);
  };
  const frame = placeOfFrame(hand.inverse.chain.tip);
  const words = directions === "hand" ? (["ahead", "left", "up"] as const) : (["x", "y", "z"] as const);
  return (
    <div className="flex flex-col gap-2">
      <div className="flex items-end gap-2">
        <ChoiceField
          label="Directions"
          value={directions}
          choices={[
            ["world", "of the table"],
            ["hand", "of the hand"],
          ]}
          onChoose={(next) => figureView.setState({ directions: next })}
          className="grow"
        />
        <ChoiceField
          label="Step"
          value={String(stepMm)}
          choices={[
            ["1", "1 mm"],
            ["5", "5 mm"],
            ["20", "20 mm"],
          ]}
          onChoose={(next) => setStepMm(Number(next))}
        />
      </div>
      <div className="grid grid-cols-3 gap-1">
        {words.map((word, axis) => (
          <div key={word} className="join flex">
            {([-1, 1] as const).map((sign) => (
              <button
                key={sign}
                type="button"
                className="join-item btn btn-sm grow px-1"
                aria-label={`${stepMm} mm ${sign < 0 ? "back" : "on"} along ${word}`}
                onClick={() => step(axis as 0 | 1 | 2, sign)}
              >
                {sign < 0 ? "−" : "+"}
                {word}
              </button>
            ))}
          </div>
        ))}
      </div>
      <label className="flex cursor-pointer items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={keepsDirection}
          onChange={() => figureView.setState({ keepsDirection: !keepsDirection })}
        />
        Keep pointing ({formatNumber(-frame.turnDeg[1], 0)}° up, {formatNumber(frame.turnDeg[2], 0)}° round)
      </label>
      <div className="flex flex-wrap items-center gap-1">
        <button
          type="button"
          className="btn btn-xs btn-outline"
          onClick={() => {
            hand.begin();
            setWays(namedWays(hand, hand.ways(keepsDirection)));
          }}
        >
          Other ways to get there
        </button>
        {ways?.map(({ words: name, stance }) => (
          <button key={name} type="button" className="btn btn-xs" onClick={() => hand.take(stance)}>
            {name}
          </button>
        ))}
        {ways && ways.length < 2 && <span className="caption">There is no other.</span>}
      </div>
    </div>
  );
}

/** Ways told apart by what people see first: how high the joint in the middle stands; then by its angle. */
function namedWays(
  hand: Hand,
  ways: readonly Float64Array[],
): readonly { readonly words: string; readonly stance: Float64Array }[] {
  const { inverse, joints } = hand;
  const kept = inverse.stance();
  const middle = Math.min(2, joints.length - 1);
  const place = new Float64Array(3);
  const seen = ways.map((stance) => {
    inverse.take(stance);
    inverse.chain.originOf(middle, place);
    return { stance, height: place[2] as number };
  });
  inverse.take(kept);
  const heights = seen.map(({ height }) => height);
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const name = joints[middle]?.label ?? "Joint";
  return seen.map(({ stance, height }, index) => {
    const side = high - low < 5 ? "" : height === high ? " up" : height === low ? " down" : "";
    return { stance, words: `${index + 1}: ${name}${side} ${formatNumber(stance[middle] as number, 0)}°` };
  });
}

function Verdict({
  hand,
  reached,
}: {
  readonly hand: Hand;
  readonly reached: ReturnType<typeof handStore.getState>["reached"];
}) {
  if (!reached) return null;
  if (reached.isReached) return <p className="text-sm text-success">It gets there.</p>;
  const stops = hand.joints.filter((joint) => {
    const target = ghostNow()?.[joint.id];
    if (joint.axis.kind !== "angle" || target === undefined) return false;
    return target <= joint.axis.travel.low + 0.05 || target >= joint.axis.travel.high - 0.05;
  });
  const off = reached.offMm > 0.05 ? `${formatNumber(reached.offMm, 1)} mm` : `${formatNumber(reached.offDeg, 1)}°`;
  const why =
    stops.length > 0
      ? `${stops.map(({ label }) => label).join(" and ")} ${stops.length > 1 ? "stand" : "stands"} at the end of ${stops.length > 1 ? "their" : "its"} travel.`
      : "All of it is stretched out, or must point elsewhere.";
  return (
    <p className="text-sm text-warning" role="status">
      Out of reach by {off}. {why}
    </p>
  );
}

interface MeetingListProps {
  readonly project: Project;
  readonly figure: Figure;
  readonly meetings: readonly Meeting[];
  readonly hand: Hand;
}

function MeetingList({ project, figure, meetings, hand }: MeetingListProps) {
  if (meetings.length === 0) return null;
  return (
    <ul className="flex flex-col gap-1" aria-label="What meets">
      {meetings.slice(0, 5).map(({ partId, other }) => (
        <li key={`${partId} ${JSON.stringify(other)}`} className="flex items-baseline gap-2 text-sm text-error">
          <span className="grow">{meetingWords(project, { partId, other })}.</span>
          {other.kind === "part" && (
            <button
              type="button"
              className="btn btn-xs btn-ghost text-base-content"
              onClick={() => {
                edit(setMayTouch(figure.id, partId, other.partId, true));
                hand.lookAgain();
              }}
            >
              They may
            </button>
          )}
        </li>
      ))}
      {meetings.length > 5 && <li className="caption">and {meetings.length - 5} more</li>}
    </ul>
  );
}
