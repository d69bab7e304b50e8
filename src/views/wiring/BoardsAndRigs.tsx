import { removeBoard, removeRig, renameBoard, renameRig } from "@core/project";
import { edit, useProject } from "@stores/document";
import { counted } from "../parts/format";
import { NameField } from "../parts/NameField";

/** All boards and rigs of the bench: renamed where they stand, and taken away where no joint needs them. */
export function BoardsAndRigs() {
  const { boards, rigs, joints } = useProject((project) => project);
  return (
    <details className="border-t border-base-300 pt-2">
      <summary className="heading cursor-pointer text-sm">Boards and rigs ({boards.length + rigs.length})</summary>
      <ul className="mt-2 space-y-1">
        {boards.map((board) => (
          <Row
            key={board.id}
            what="board"
            label={board.label}
            joints={joints.filter((joint) => joint.boardId === board.id).length}
            onRename={(name) => edit(renameBoard(board.id, name))}
            onRemove={() => edit(removeBoard(board.id))}
          />
        ))}
        {rigs.map((rig) => (
          <Row
            key={rig.id}
            what="rig"
            label={rig.label}
            joints={joints.filter((joint) => joint.rigId === rig.id).length}
            onRename={(name) => edit(renameRig(rig.id, name))}
            onRemove={() => edit(removeRig(rig.id))}
          />
        ))}
      </ul>
    </details>
  );
}

interface RowProps {
  readonly what: "board" | "rig";
  readonly label: string;
  readonly joints: number;
  readonly onRename: (name: string) => void;
  readonly onRemove: () => void;
}

function Row({ what, label, joints, onRename, onRemove }: RowProps) {
  return (
    <li className="flex items-center gap-2">
      <span className="caption w-10">{what}</span>
      <NameField label={`Name of the ${what} ${label}`} value={label} onCommit={onRename} className="grow" />
      <span className="caption">{joints === 0 ? "no joints" : counted(joints, "joint")}</span>
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square text-base"
        aria-label={`Remove the ${what} ${label}`}
        title={joints > 0 ? `Its joints come first: ${counted(joints, "joint")} need it` : `Remove ${label}`}
        disabled={joints > 0}
        onClick={onRemove}
      >
        ×
      </button>
    </li>
  );
}
