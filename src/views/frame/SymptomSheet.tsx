import type { Joint } from "@core/project";
import { type Clue, cluesOf, type SymptomId, symptoms, symptomsOf } from "@core/symptoms";
import { useProject } from "@stores/document";
import { useJointBench } from "@stores/jointBench";
import { linkStore } from "@stores/live";
import { select, useSelectedJoint } from "@stores/selection";
import { useIsReal } from "@stores/wires";
import { useMemo, useState } from "react";
import { useStore } from "zustand";
import { Sheet } from "../parts/Sheet";
import { useIsHeld } from "../parts/useIsHeld";
import { placeOfClue } from "./places";

interface SymptomSheetProps {
  readonly symptomId: SymptomId | null;
  readonly onClose: () => void;
}

/** What is wrong with the selected joint: a person says what they see, and Vantel what it knows of that, and where to look. */
export default function SymptomSheet({ symptomId, onClose }: SymptomSheetProps) {
  const joint = useSelectedJoint();
  return (
    <Sheet label="What is wrong?" onClose={onClose} isWide>
      {joint ? (
        <Asked joint={joint} symptomId={symptomId} onClose={onClose} />
      ) : (
        <p>There is no joint on this bench. Add one at the foot of the rack; then say here what it does.</p>
      )}
    </Sheet>
  );
}

interface AskedProps extends SymptomSheetProps {
  readonly joint: Joint;
}

function Asked({ joint, symptomId, onClose }: AskedProps) {
  const joints = useProject((project) => project.joints);
  const { card } = useJointBench(joint);
  const offered = symptomsOf(card);
  const [asked, setAsked] = useState(symptomId);
  const chosen = asked && offered.includes(asked) ? asked : null;
  return (
    <>
      <h2 className="heading mb-3 flex items-center gap-2 text-lg">
        What is wrong with
        <select
          className="select select-sm w-auto max-w-72 bg-base-100"
          aria-label="Joint"
          value={joint.id}
          onChange={(event) => select(event.target.value)}
        >
          {joints.map(({ id, label }) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </select>
        ?
      </h2>
      <div className="grid grid-cols-[15rem_minmax(0,1fr)] gap-6">
        <ul aria-label="What it does">
          {offered.map((id, at) => (
            <li key={id}>
              <button
                type="button"
                aria-pressed={id === chosen}
                data-first={(chosen ? id === chosen : at === 0) || undefined}
                className={`w-full cursor-pointer border-l-2 py-1.5 pl-2.5 text-left leading-tight ${id === chosen ? "border-primary bg-base-200 font-semibold" : "border-base-300 hover:border-primary/60 hover:bg-base-200/60"}`}
                onClick={() => setAsked(id)}
              >
                {symptoms[id].says}
              </button>
            </li>
          ))}
        </ul>
        {chosen ? (
          <Clues joint={joint} symptomId={chosen} onClose={onClose} />
        ) : (
          <p className="caption self-center">
            Say what it does. Vantel looks through what it knows of the joint, its servo, its board and what feeds them,
            and says where to look.
          </p>
        )}
      </div>
    </>
  );
}

interface CluesProps {
  readonly joint: Joint;
  readonly symptomId: SymptomId;
  readonly onClose: () => void;
}

/** The reasons for a symptom, as they stand now: what is so by the numbers, then what only a look tells. */
function Clues({ joint, symptomId, onClose }: CluesProps) {
  const project = useProject((whole) => whole);
  const bench = useJointBench(joint);
  const isReal = useIsReal(bench.board);
  const isHeld = useIsHeld(joint.id);
  const isAnswering = useStore(linkStore, (links) =>
    links.some(({ boardId, state }) => boardId === joint.boardId && state === "live"),
  );
  const clues = useMemo(
    () => cluesOf(symptomId, { project, bench, now: { isReal, isHeld, isAnswering } }),
    [symptomId, project, bench, isReal, isHeld, isAnswering],
  );
  const known = clues.filter(({ isSo }) => isSo);
  const others = clues.filter(({ isSo }) => !isSo);
  return (
    <div className="space-y-4" aria-live="polite">
      <section aria-label="Known">
        <h3 className="caption mb-1">What Vantel knows</h3>
        {known.length > 0 ? (
          <ClueList clues={known} joint={joint} onClose={onClose} />
        ) : (
          <p className="text-sm">Nothing that is known of {joint.label} explains it.</p>
        )}
      </section>
      {others.length > 0 && (
        <section aria-label="To be looked at">
          <h3 className="caption mb-1">What only you can see</h3>
          <ClueList clues={others} joint={joint} onClose={onClose} />
        </section>
      )}
    </div>
  );
}

interface ClueListProps {
  readonly clues: readonly Clue[];
  readonly joint: Joint;
  readonly onClose: () => void;
}

const ClueList = ({ clues, joint, onClose }: ClueListProps) => (
  <ul className="space-y-2">
    {clues.map((clue) => {
      const { words, go, isHere } = placeOfClue(clue, joint.id);
      return (
        <li
          key={`${clue.leadId ?? clue.place} ${clue.says}`}
          className="grid grid-cols-[minmax(0,1fr)_auto] items-start gap-3 text-sm leading-snug"
        >
          <span className={`border-l-2 pl-2.5 wrap-anywhere ${clue.isSo ? "border-warning" : "border-base-300"}`}>
            {clue.says}
          </span>
          <button
            type="button"
            className={`btn btn-xs ${clue.isSo ? "btn-primary" : "btn-outline"}`}
            onClick={() => {
              if (!isHere) onClose();
              go();
            }}
          >
            {words}
          </button>
        </li>
      );
    })}
  </ul>
);
