import { changeServo, type Joint, removeJoint, renameJoint, rewireJoint } from "@core/project";
import { freeChannels, isBoardFor, looseCards } from "@core/rig";
import { edit, useProject } from "@stores/document";
import { useJointBench } from "@stores/jointBench";
import { ChoiceField } from "../parts/ChoiceField";
import { NameField } from "../parts/NameField";
import { Sheet } from "../parts/Sheet";
import { SheetFoot } from "../parts/SheetFoot";
import { BoardsAndRigs } from "./BoardsAndRigs";

interface JointWiringProps {
  readonly joint: Joint;
  readonly onClose: () => void;
}

/** Where a joint's servo is plugged in, which servo it is, and the way to take the joint off the bench. */
export default function JointWiring({ joint, onClose }: JointWiringProps) {
  const project = useProject((current) => current);
  const { card, board } = useJointBench(joint);
  const boards = project.boards.filter((one) => isBoardFor(one, card));
  const rewire = (boardId: string, channel: number) => edit(rewireJoint(joint.id, boardId, channel));
  const moveTo = (boardId: string) => {
    const next = project.boards.find((one) => one.id === boardId);
    const channel = next && freeChannels(project, next, joint)[0];
    if (channel !== undefined) rewire(boardId, channel);
  };
  const servos = [card, ...looseCards(project)].filter(
    (one) => isBoardFor(board, one) && (one.kind === "continuous") === (card.kind === "continuous"),
  );
  return (
    <Sheet label={`Wiring of ${joint.label}`} onClose={onClose}>
      <div className="space-y-3">
        <NameField
          label="Name of the joint"
          value={joint.label}
          onCommit={(name) => edit(renameJoint(joint.id, name))}
          className="heading w-full text-lg"
        />
        <ChoiceField
          label="Its servo"
          value={card.id}
          choices={servos.map((one) => [one.id, one.label] as const)}
          onChoose={(cardId) => edit(changeServo(joint.id, cardId))}
        />
        <div className="grid grid-cols-2 gap-3">
          <ChoiceField
            label="Wired to the board"
            value={board.id}
            choices={boards.map((one) => [one.id, one.label] as const)}
            onChoose={moveTo}
          />
          <ChoiceField
            label={card.kind === "smart" ? "Id on the bus" : "Channel"}
            value={String(joint.channel)}
            choices={freeChannels(project, board, joint).map((one) => [String(one), String(one)] as const)}
            onChoose={(channel) => rewire(board.id, Number(channel))}
          />
        </div>
        <p className="caption">
          A joint that is wired elsewhere, or gets another servo, is released first: hold it again when the plug is in.
        </p>
        <BoardsAndRigs />
        <SheetFoot
          onDone={onClose}
          removeWords={`Take ${joint.label} off the bench`}
          onRemove={() => edit(removeJoint(joint.id))}
        />
      </div>
    </Sheet>
  );
}
