import { addCards, type ServoCard } from "@core/project";
import { type CardState, cardState, newCard } from "@core/servo";
import { edit, newId, useProject } from "@stores/document";
import { useSelectedJoint } from "@stores/selection";
import { useState } from "react";
import { Opened } from "../parts/Opened";
import { CardSheet } from "./CardSheet";
import { CardTransfer } from "./CardTransfer";
import { stateWords } from "./stateWords";

/** Every servo that was ever on this bench, with all that is known of it. */
export default function CardFile() {
  return (
    <Opened isStation>
      <File />
    </Opened>
  );
}

type Shown = "all" | CardState["kind"];
const shownNames: readonly (readonly [Shown, string])[] = [
  ["all", "all states"],
  ["new", "new"],
  ["calibrated", "calibrated"],
  ["checkDue", "check due"],
  ["retired", "retired"],
];
const kinds = [
  ["positional", "positional"],
  ["continuous", "continuous"],
  ["smart", "smart"],
] as const;

/** Whether all words that are looked for stand somewhere on the card, or name the joint that it is in. */
function isFound(card: ServoCard, jointLabel: string, wanted: string): boolean {
  const text = [card.label, card.kind, card.notes, jointLabel, ...Object.values(card.wires)].join(" ").toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

function File() {
  const cards = useProject((project) => project.cards);
  const joints = useProject((project) => project.joints);
  const rigs = useProject((project) => project.rigs);
  const selected = useSelectedJoint();
  const [openId, setOpenId] = useState(
    () => new URLSearchParams(location.search).get("card") ?? selected?.cardId ?? "",
  );
  const [wanted, setWanted] = useState("");
  const [shown, setShown] = useState<Shown>("all");
  const nowMs = Date.now();
  const jointOf = (card: ServoCard) => joints.find((joint) => joint.cardId === card.id);
  const placeOf = (card: ServoCard) => {
    const joint = jointOf(card);
    return joint ? `${rigs.find((rig) => rig.id === joint.rigId)?.label ?? ""}, ${joint.label}` : "not built in";
  };
  const found = cards.filter(
    (card) => isFound(card, placeOf(card), wanted) && (shown === "all" || cardState(card, nowMs).kind === shown),
  );
  const open = cards.find((card) => card.id === openId) ?? cards[0];
  const add = (kind: ServoCard["kind"]) => {
    const id = newId();
    if (edit(addCards([newCard(kind, id, `New servo ${cards.length + 1}`)]))) setOpenId(id);
  };

  return (
    <div className="flex h-full flex-col">
      <header className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="text-[1.45rem] leading-none font-bold tracking-tight">Card file</h1>
        <p className="caption">
          {cards.length} servos: each has its own card, and two of one model have two. What was measured stays.
        </p>
        <CardTransfer found={found} onOpen={setOpenId} />
      </header>
      <div className="grid min-h-0 grow grid-cols-[19rem_minmax(0,1fr)] gap-5">
        <div className="flex min-h-0 flex-col gap-2">
          <div className="flex gap-2">
            <input
              type="search"
              className="input input-sm grow bg-base-100"
              placeholder="Search label, notes, joint…"
              aria-label="Search the cards"
              value={wanted}
              onChange={(event) => setWanted(event.target.value)}
            />
            <select
              className="select select-sm w-28 bg-base-100"
              aria-label="State"
              value={shown}
              onChange={(event) => setShown(event.target.value as Shown)}
            >
              {shownNames.map(([kind, words]) => (
                <option key={kind} value={kind}>
                  {words}
                </option>
              ))}
            </select>
          </div>
          <ul className="min-h-0 grow overflow-y-auto shows-more" aria-label="Cards">
            {found.map((card) => (
              <li key={card.id} className="border-b border-base-300">
                <button
                  type="button"
                  aria-current={card.id === open?.id}
                  data-card={card.id}
                  className={`w-full px-2 py-1 text-left ${card.id === open?.id ? "bg-base-200 shadow-[inset_3px_0_0_var(--color-primary)]" : "hover:bg-base-200/60"}`}
                  onClick={() => setOpenId(card.id)}
                >
                  <span className="block truncate font-medium">{card.label}</span>
                  <span className="caption flex gap-2">
                    <span className="grow truncate">{placeOf(card)}</span>
                    <span className="shrink-0">{stateWords(cardState(card, nowMs))}</span>
                  </span>
                </button>
              </li>
            ))}
            {found.length === 0 && (
              <li className="caption p-3">
                {cards.length === 0
                  ? "No servo has a card yet. Add one below, or import a file of cards."
                  : "No card has all of these words in this state."}
              </li>
            )}
          </ul>
          <fieldset className="border-t border-base-300 pt-2">
            <legend className="caption float-left mr-2">New card</legend>
            <div className="flex gap-1">
              {kinds.map(([kind, words]) => (
                <button key={kind} type="button" className="btn btn-outline btn-xs" onClick={() => add(kind)}>
                  {words}
                </button>
              ))}
            </div>
          </fieldset>
        </div>
        {open && <CardSheet key={open.id} card={open} joint={jointOf(open) ?? null} onOpen={setOpenId} />}
      </div>
    </div>
  );
}
