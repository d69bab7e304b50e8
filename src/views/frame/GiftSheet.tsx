import { cardIn, type Gift, type GiftJoint, isLike, matched } from "@core/handOff";
import { setPointUnit } from "@core/project";
import type { Result } from "@core/result";
import { useProject } from "@stores/document";
import { takeGiftIn } from "@stores/gifts";
import { notify } from "@stores/notices";
import { useState } from "react";
import { formatIn, formatNumber } from "../parts/format";
import { Sheet } from "../parts/Sheet";

const what = { card: "a servo card", pose: "a pose", routine: "a routine" } as const;

interface GiftSheetProps {
  readonly gift: Result<Gift>;
  /** It was taken in, or left. */
  readonly onDone: () => void;
}

/** What came with a link: looked at first; nothing is on the bench before it is taken in. */
export default function GiftSheet({ gift, onDone }: GiftSheetProps) {
  return (
    <Sheet label="A link from a friend" onClose={onDone} isWide>
      <h2 className="heading">A link from a friend</h2>
      {gift.ok ? (
        <Look gift={gift.value} onDone={onDone} />
      ) : (
        <>
          <p className="mt-2 text-error">{gift.problem}</p>
          <button type="button" className="btn btn-sm btn-outline mt-4" onClick={onDone}>
            Leave it
          </button>
        </>
      )}
    </Sheet>
  );
}

interface LookProps {
  readonly gift: Gift;
  readonly onDone: () => void;
}

function Look({ gift, onDone }: LookProps) {
  const project = useProject((current) => current);
  const joints = gift.kind === "card" ? [] : gift.joints;
  const [own, setOwn] = useState(() => matched(project, joints));
  const [refusal, setRefusal] = useState<string | null>(null);
  const take = () => {
    const refused = takeGiftIn(gift, own);
    setRefusal(refused);
    if (refused !== null) return;
    notify("It is on the bench now. Undo takes it off again.");
    onDone();
  };
  return (
    <>
      <p className="mt-1">
        It holds {what[gift.kind]}. Nothing is on your bench before you take it in, and nothing moves by it.
      </p>
      <div className="mt-3">{gift.kind === "card" ? <CardLook gift={gift} /> : <MotionLook gift={gift} />}</div>
      {joints.length > 0 && (
        <table className="mt-3 w-full text-[0.92rem]">
          <thead>
            <tr className="caption text-left">
              <th className="font-normal">joint in the link</th>
              <th className="font-normal">joint on your bench</th>
            </tr>
          </thead>
          <tbody>
            {joints.map((joint, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a joint of a gift is known by its place.
              <tr key={at}>
                <td className="py-0.5">{joint.label}</td>
                <td>
                  <select
                    className="select select-sm w-60 bg-base-100"
                    aria-label={`${joint.label} on your bench`}
                    value={own[at] ?? ""}
                    onChange={(event) => setOwn(own.with(at, event.target.value || null))}
                  >
                    <option value="">left out</option>
                    {project.joints
                      .filter((one) => isLike(one, joint))
                      .map(({ id, label }) => (
                        <option key={id} value={id}>
                          {label}
                        </option>
                      ))}
                  </select>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-2 min-h-6 text-error" aria-live="polite">
        {refusal}
      </p>
      <div className="flex gap-2">
        <button type="button" className="btn btn-sm btn-primary" onClick={take}>
          Take it in
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={onDone}>
          Leave it
        </button>
      </div>
    </>
  );
}

function CardLook({ gift }: { readonly gift: Extract<Gift, { kind: "card" }> }) {
  const card = cardIn(gift);
  if (!card.ok) return <p className="text-error">{card.problem}</p>;
  const { label, window, calibrations, notes } = card.value;
  const unit = setPointUnit(card.value);
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      <dt className="caption">servo</dt>
      <dd className="font-semibold">{label}</dd>
      <dt className="caption">hard window</dt>
      <dd className="number">
        {formatNumber(window.low, 0)} … {formatNumber(window.high, 0)} {unit}
      </dd>
      <dt className="caption">measured</dt>
      <dd>{calibrations.length === 0 ? "not yet: by its data sheet" : `${calibrations.length} times`}</dd>
      {notes && (
        <>
          <dt className="caption">notes</dt>
          <dd className="max-h-24 overflow-y-auto whitespace-pre-line">{notes}</dd>
        </>
      )}
    </dl>
  );
}

function MotionLook({ gift }: { readonly gift: Exclude<Gift, { kind: "card" }> }) {
  const poses = gift.kind === "pose" ? [gift.pose] : gift.poses;
  return (
    <>
      <p className="font-semibold">
        {gift.kind === "pose" ? gift.pose.name : gift.routine.name}
        {gift.kind === "routine" && (
          <span className="caption ml-2 font-normal">
            {gift.routine.steps.length} steps, {gift.poses.length} poses, {gift.routine.lanes.length} lanes
          </span>
        )}
      </p>
      <ul className="mt-1 max-h-40 overflow-y-auto text-sm">
        {poses.map((pose, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a pose of a gift is known by its place.
          <li key={at}>
            <span className="font-semibold">{pose.name}</span>: {targetWords(pose.targets, gift.joints)}
          </li>
        ))}
      </ul>
    </>
  );
}

const targetWords = (
  targets: Extract<Gift, { kind: "pose" }>["pose"]["targets"],
  joints: readonly GiftJoint[],
): string =>
  targets
    .map(([at, target]) => {
      const joint = joints[at as number];
      return `${joint?.label} ${formatIn(target as number, joint?.unit ?? "°")}`;
    })
    .join(", ");
