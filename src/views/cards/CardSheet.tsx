import { copyCard, editCard, type Joint, removeCard, renameCard, type ServoCard } from "@core/project";
import { cardState } from "@core/servo";
import { edit, newId } from "@stores/document";
import { select } from "@stores/selection";
import { useCallback, useState } from "react";
import { NameField } from "../parts/NameField";
import { CalibrationList } from "./CalibrationList";
import { CardPrint } from "./CardPrint";
import { CurrentFields } from "./CurrentFields";
import { DriftChart } from "./DriftChart";
import { RatingFields } from "./RatingFields";
import { stateWords } from "./stateWords";

interface CardSheetProps {
  readonly card: ServoCard;
  /** Where it is built in. */
  readonly joint: Joint | null;
  readonly onOpen: (cardId: string) => void;
}

/** One servo's card: what its sheet says, how it stands, what was measured, and how it has drifted. */
export function CardSheet({ card, joint, onOpen }: CardSheetProps) {
  const [isPrinting, setIsPrinting] = useState(false);
  const donePrinting = useCallback(() => setIsPrinting(false), []);
  const copy = () => {
    const id = newId();
    if (edit(copyCard(card.id, id))) onOpen(id);
  };
  return (
    <article className="min-h-0 overflow-y-auto shows-more pr-1" aria-label={`Card of ${card.label}`}>
      <div className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <NameField
          label="Label of the servo"
          value={card.label}
          onCommit={(name) => edit(renameCard(card.id, name))}
          className="heading max-w-80 min-w-40 text-xl [field-sizing:content]"
        />
        <span className="caption" data-readout="state">
          {card.kind}, {stateWords(cardState(card, Date.now()))}
        </span>
        <div className="ml-auto flex gap-2">
          {joint && (
            <a className="btn btn-primary btn-sm" href="/calibrate" onClick={() => select(joint.id)}>
              Calibrate {joint.label}
            </a>
          )}
          <button type="button" className="btn btn-outline btn-sm" onClick={copy}>
            Copy for a sister
          </button>
          <button type="button" className="btn btn-outline btn-sm" onClick={() => setIsPrinting(true)}>
            Print
          </button>
          {!joint && (
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => edit(removeCard(card.id))}>
              Remove
            </button>
          )}
        </div>
      </div>
      {isPrinting && <CardPrint card={card} joint={joint} onDone={donePrinting} />}
      <div className="grid grid-cols-2 items-start gap-4">
        <div className="space-y-3">
          <Standing card={card} />
          <RatingFields card={card} />
          <Wires card={card} />
        </div>
        <div className="space-y-3">
          <CurrentFields card={card} joint={joint} />
          <CalibrationList card={card} />
          <DriftChart card={card} />
          <Notes card={card} />
        </div>
      </div>
    </article>
  );
}

const standings = [
  ["inUse", "in use"],
  ["checkDue", "check due"],
  ["retired", "retired"],
] as const;

function Standing({ card }: { readonly card: ServoCard }) {
  const state = cardState(card, Date.now());
  return (
    <section className="sheet space-y-2 p-3" aria-label="State">
      <div className="grid grid-cols-2 gap-3">
        <label>
          <span className="caption mb-0.5 block">State</span>
          <select
            className="select select-sm w-full bg-base-100"
            value={card.standing}
            onChange={(event) =>
              edit(
                editCard(card.id, "state", (before) => ({
                  ...before,
                  standing: event.target.value as ServoCard["standing"],
                })),
              )
            }
          >
            {standings.map(([standing, words]) => (
              <option key={standing} value={standing}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="caption mb-0.5 block">Check it again after</span>
          <select
            className="select select-sm w-full bg-base-100"
            value={card.checkEveryDays ?? "never"}
            onChange={(event) =>
              edit(
                editCard(card.id, "time to the next check", (before) => ({
                  ...before,
                  checkEveryDays: event.target.value === "never" ? null : Number(event.target.value),
                })),
              )
            }
          >
            {["never", 7, 30, 90, 180, 365].map((days) => (
              <option key={days} value={days}>
                {days === "never" ? "never" : `${days} days`}
              </option>
            ))}
          </select>
        </label>
      </div>
      {state.kind === "checkDue" && <p className="text-sm text-warning">Check due: {state.why}.</p>}
    </section>
  );
}

const wires = [
  ["ground", "ground", "the darkest: black or brown"],
  ["supply", "supply", "the middle one: red"],
  ["signal", "signal", "the light one: white, yellow or orange"],
] as const;

function Wires({ card }: { readonly card: ServoCard }) {
  return (
    <section className="sheet p-3" aria-label="Wires">
      <h2 className="heading">Wires</h2>
      <div className="mt-1 grid grid-cols-3 gap-3">
        {wires.map(([field, label, usual]) => (
          <div key={field} title={`Usually ${usual}.`}>
            <TextField
              label={label}
              value={card.wires[field]}
              longest={40}
              onCommit={(text) =>
                edit(editCard(card.id, "wires", (before) => ({ ...before, wires: { ...before.wires, [field]: text } })))
              }
            />
          </div>
        ))}
      </div>
    </section>
  );
}

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  readonly longest: number;
  readonly onCommit: (text: string) => void;
}

/** A short text that is taken on Enter or on leaving. */
function TextField({ label, value, longest, onCommit }: TextFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    if (typed !== null && typed !== value) onCommit(typed);
    setTyped(null);
  };
  return (
    <label>
      <span className="caption mb-0.5 block">{label}</span>
      <input
        className="input input-sm w-full bg-base-100"
        value={typed ?? value}
        maxLength={longest}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === "Enter" && commit()}
      />
    </label>
  );
}

function Notes({ card }: { readonly card: ServoCard }) {
  return (
    <section className="sheet p-3" aria-label="Notes">
      <label>
        <span className="heading mb-1 block">Notes</span>
        <textarea
          className="textarea w-full bg-base-100"
          rows={4}
          maxLength={4000}
          value={card.notes}
          placeholder="Where it came from, what it sounds like, which screw fits…"
          onChange={(event) => edit(editCard(card.id, "notes", (before) => ({ ...before, notes: event.target.value })))}
        />
      </label>
    </section>
  );
}
