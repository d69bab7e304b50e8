import { type EncodingKind, encodingNames, newEncoding } from "@core/encodings";
import { addJoint, type Board, type ServoCard, usualControl } from "@core/project";
import { freeChannels, isBoardFor, looseCards, newAxis } from "@core/rig";
import { newCard } from "@core/servo";
import { editForField, newId, useProject } from "@stores/document";
import { command } from "@stores/live";
import { select } from "@stores/selection";
import { type FormEvent, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { Sheet } from "../parts/Sheet";

const newKinds = [
  ["new:positional", "a new positional servo"],
  ["new:continuous", "a new continuous servo"],
  ["new:smart", "a new smart servo, on a bus"],
] as const;
const pulseWays = (Object.keys(encodingNames) as EncodingKind[]).filter((kind) => kind !== "bus");

/** Builds a servo into the project: its card, its rig, its board and channel, any of them new. One step to undo. */
export default function AddJoint({ onClose }: { readonly onClose: () => void }) {
  const project = useProject((current) => current);
  const [label, setLabel] = useState("");
  const [servo, setServo] = useState<string>(() => looseCards(project)[0]?.id ?? "new:positional");
  const [rigId, setRigId] = useState(() => project.rigs[0]?.id ?? "new");
  const [rigLabel, setRigLabel] = useState("");
  const [boardChoice, setBoardChoice] = useState("");
  const [channelChoice, setChannelChoice] = useState<number | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);

  const name = label.trim() || "New joint";
  const old = project.cards.find((card) => card.id === servo);
  const card = old ?? newCard(servo.replace("new:", "") as ServoCard["kind"], "new-card", `${name} servo`);
  const boards = project.boards.filter((board) => isBoardFor(board, card));
  const isNewBoard = boardChoice.startsWith("new:") || boards.length === 0;
  const way: EncodingKind =
    card.kind === "smart" ? "bus" : ((boardChoice.replace("new:", "") || "microseconds") as EncodingKind);
  const board: Board = isNewBoard
    ? newBoard(
        way,
        project.boards.map((one) => one.label),
      )
    : (boards.find((one) => one.id === boardChoice) ?? (boards[0] as Board));
  const channels = freeChannels(project, board);
  const channel = channelChoice !== null && channels.includes(channelChoice) ? channelChoice : channels[0];

  const add = (event: FormEvent) => {
    event.preventDefault();
    if (channel === undefined) {
      setTrouble(`Every channel of ${board.label} is taken. Choose another board, or a new one.`);
      return;
    }
    const cardId = old ? old.id : newId();
    const rig = rigId === "new" ? { id: newId(), label: rigLabel.trim() || "New rig", mirror: [] } : undefined;
    const placed = isNewBoard ? { ...board, id: newId() } : board;
    const joint = {
      id: newId(),
      label: name,
      rigId: rig?.id ?? rigId,
      cardId,
      boardId: placed.id,
      channel,
      axis: newAxis(card),
      control: usualControl,
    };
    const refusal = editForField(
      addJoint({
        joint,
        ...(rig && { rig }),
        ...(isNewBoard && { board: placed }),
        ...(!old && { card: { ...card, id: cardId } }),
      }),
    );
    if (refusal !== null) {
      setTrouble(refusal);
      return;
    }
    select(joint.id);
    // A new board is greeted first; a joint is held when somebody holds it.
    if (!isNewBoard && placed.link.kind === "simulated") command({ kind: "hold", jointId: joint.id });
    onClose();
  };

  return (
    <Sheet label="Add a joint" onClose={onClose}>
      <form onSubmit={add} className="space-y-3">
        <h2 className="heading text-lg">Add a joint</h2>
        <label className="block">
          <span className="caption mb-0.5 block">What it moves</span>
          <input
            className="input input-sm w-full bg-base-100"
            placeholder="Jaw, left wing, gripper…"
            maxLength={80}
            // biome-ignore lint/a11y/noAutofocus: a sheet that was asked for begins with its first field.
            autoFocus
            value={label}
            onChange={(event) => setLabel(event.target.value)}
          />
        </label>
        <ChoiceField
          label="Its servo"
          value={servo}
          choices={[
            ...looseCards(project).map((one) => [one.id, `from the card file: ${one.label}`] as const),
            ...newKinds,
          ]}
          onChoose={setServo}
        />
        <div className="grid grid-cols-2 gap-3">
          <ChoiceField
            label="Part of the rig"
            value={rigId}
            choices={[...project.rigs.map((rig) => [rig.id, rig.label] as const), ["new", "a new rig"]]}
            onChoose={setRigId}
          />
          {rigId === "new" && (
            <label>
              <span className="caption mb-0.5 block">Name of the rig</span>
              <input
                className="input input-sm w-full bg-base-100"
                maxLength={80}
                value={rigLabel}
                onChange={(event) => setRigLabel(event.target.value)}
              />
            </label>
          )}
        </div>
        <div className="grid grid-cols-2 gap-3">
          <ChoiceField
            label="Wired to the board"
            value={isNewBoard ? `new:${way}` : board.id}
            choices={[
              ...boards.map((one) => [one.id, one.label] as const),
              ...(card.kind === "smart"
                ? [["new:bus", "a new bus adapter"] as const]
                : pulseWays.map((kind) => [`new:${kind}`, `new: ${encodingNames[kind].toLowerCase()}`] as const)),
            ]}
            onChoose={setBoardChoice}
          />
          <ChoiceField
            label={card.kind === "smart" ? "Id on the bus" : "Channel"}
            value={String(channel ?? "")}
            choices={channels.map((one) => [String(one), String(one)] as const)}
            onChoose={(chosen) => setChannelChoice(Number(chosen))}
          />
        </div>
        <p className="caption">
          It begins with careful limits, 0° in the middle of its servo. Find its end stops first, then its angles.
        </p>
        {trouble && (
          <p role="alert" className="text-sm text-error">
            {trouble}
          </p>
        )}
        <div className="flex gap-2">
          <button type="submit" className="btn btn-primary btn-sm">
            Add it
          </button>
          <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
            Leave it
          </button>
        </div>
      </form>
    </Sheet>
  );
}

/** A board with its usual settings; real ones say better under Signal. */
function newBoard(kind: EncodingKind, taken: readonly string[]): Board {
  let count = 1;
  while (taken.includes(`Board ${count}`)) count += 1;
  return {
    id: "new-board",
    label: `Board ${count}`,
    channels: kind === "bus" ? 254 : 8,
    frameHz: [50],
    encoding: newEncoding(kind),
    silence: { afterMs: 500, action: "release" },
    link: { kind: "simulated" },
  };
}
