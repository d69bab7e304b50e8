import { byId, type Joint } from "@core/project";
import { useProject } from "@stores/document";
import { liveJoint, useLive } from "@stores/live";
import { select, useSelectedJoint } from "@stores/selection";
import { openDemo } from "@stores/session";
import { useCallback, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { formatNumber } from "../parts/format";
import { lazily } from "../parts/lazily";
import { ownerWords } from "../parts/ownerWords";
import { useIsHeld } from "../parts/useIsHeld";

const AddJoint = lazily(() => import("../wiring/AddJoint"));

/** What stands on the bench, joint by joint: where each is wired, how far it goes, and how well its servo is known. */
export function BenchTable() {
  const joints = useProject((project) => project.joints);
  if (joints.length === 0) return <EmptyBench />;
  return (
    <section className="shows-more min-h-0 overflow-y-auto" aria-label="What stands on the bench">
      <table className="table table-sm">
        <thead>
          <tr>
            <th>joint</th>
            <th>board</th>
            <th>servo</th>
            <th>travel</th>
            <th>angles</th>
            <th>now</th>
          </tr>
        </thead>
        <tbody>
          {joints.map((joint) => (
            <BenchRow key={joint.id} joint={joint} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function EmptyBench() {
  const [isAdding, setIsAdding] = useState(false);
  return (
    <section className="sheet self-start p-4" aria-label="The bench is empty">
      <h2 className="heading">Nothing stands on this bench yet</h2>
      <p className="mt-1">
        A joint is one servo and what it moves. Adding one asks which servo it is, and which board drives it. The demo
        is an owl’s head, an arm and a vent to try everything on; a project file is opened from the menu at the top
        left.
      </p>
      <div className="mt-3 flex gap-2">
        <button type="button" className="btn btn-sm btn-primary" onClick={() => setIsAdding(true)}>
          Add the first joint
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => void openDemo()}>
          Lay out the demo
        </button>
      </div>
      <Fetched>{isAdding && <AddJoint onClose={() => setIsAdding(false)} />}</Fetched>
    </section>
  );
}

function BenchRow({ joint }: { readonly joint: Joint }) {
  const card = useProject((project) => byId(project.cards, joint.cardId));
  const board = useProject((project) => byId(project.boards, joint.boardId));
  const isSelected = useSelectedJoint()?.id === joint.id;
  const isHeld = useIsHeld(joint.id);
  const owner = useLive(useCallback(() => liveJoint(joint.id, "owner"), [joint.id]));
  const { axis } = joint;
  return (
    <tr className={isSelected ? "bg-base-200" : ""}>
      <td>
        <button type="button" className="cursor-pointer text-left font-medium" onClick={() => select(joint.id)}>
          {joint.label}
        </button>
      </td>
      <td>
        {board.label}, {card.kind === "smart" ? "id" : "channel"} <span className="number">{joint.channel}</span>
      </td>
      <td>{card.label}</td>
      <td className="number">
        {axis.kind === "angle"
          ? `${formatNumber(axis.travel.low, 0)}° to ${formatNumber(axis.travel.high, 0)}°`
          : "turns on and on"}
      </td>
      <td>{card.calibrations.length > 0 ? "measured" : "by its data sheet"}</td>
      <td>{ownerWords(owner, isHeld)}</td>
    </tr>
  );
}
