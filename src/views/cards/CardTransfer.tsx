import { cardsFromTable, cardTable, readCardFile, writeCardFile } from "@core/files";
import { addCards, type ServoCard } from "@core/project";
import type { Result } from "@core/result";
import { edit, newId, projectNow } from "@stores/document";
import { notify } from "@stores/notices";
import { useCallback, useRef, useState } from "react";
import { readCsv, writeCsv } from "../parts/csv";
import { Sheet } from "../parts/Sheet";
import { saveFile } from "../parts/saveFile";
import { RigPrint } from "./RigPrint";

interface CardTransferProps {
  /** The cards that are listed now: they go out. */
  readonly found: readonly ServoCard[];
  readonly onOpen: (cardId: string) => void;
}

interface Offer {
  readonly fileName: string;
  readonly cards: readonly ServoCard[];
}

/** Cards out and in, as JSON with all that was measured or as a table; nothing comes in until it was looked at and accepted. */
export function CardTransfer({ found, onOpen }: CardTransferProps) {
  const file = useRef<HTMLInputElement>(null);
  const [offer, setOffer] = useState<Offer | null>(null);
  const [isPrinting, setIsPrinting] = useState(false);
  const donePrinting = useCallback(() => setIsPrinting(false), []);
  const look = async (chosen: File | undefined) => {
    if (!chosen) return;
    const text = await chosen.text();
    const read: Result<readonly ServoCard[]> = chosen.name.toLowerCase().endsWith(".json")
      ? readCardFile(text)
      : cardsFromTable(readCsv(text), newId);
    if (read.ok) setOffer({ fileName: chosen.name, cards: read.value });
    else notify(`${chosen.name}: ${read.problem} Nothing was changed.`, "warning");
  };
  const accept = () => {
    if (!offer) return;
    const known = new Set(projectNow().cards.map((card) => card.id));
    const cards = offer.cards.map((card) => (known.has(card.id) ? { ...card, id: newId() } : card));
    if (!edit(addCards(cards))) return;
    if (cards[0]) onOpen(cards[0].id);
    notify(`${cards.length} ${cards.length === 1 ? "card is" : "cards are"} in the file.`);
    setOffer(null);
  };
  return (
    <div className="ml-auto flex items-center gap-2">
      <button type="button" className="btn btn-sm btn-outline" onClick={() => file.current?.click()}>
        Import
      </button>
      <button
        type="button"
        className="btn btn-sm btn-outline"
        onClick={() => saveFile("servo-cards.json", writeCardFile(found), "application/json")}
      >
        Export JSON
      </button>
      <button
        type="button"
        className="btn btn-sm btn-outline"
        onClick={() => saveFile("servo-cards.csv", writeCsv(cardTable(found)), "text/csv")}
      >
        Export CSV
      </button>
      <button type="button" className="btn btn-sm btn-outline" onClick={() => setIsPrinting(true)}>
        Print rig sheets
      </button>
      {isPrinting && <RigPrint onDone={donePrinting} />}
      <input
        ref={file}
        type="file"
        accept=".json,.csv,.tsv,.txt,application/json,text/csv"
        className="hidden"
        aria-label="File of cards"
        onChange={(event) => {
          void look(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      {offer && (
        <Sheet label="Cards to import" onClose={() => setOffer(null)}>
          <h2 className="heading text-lg">
            {offer.cards.length} {offer.cards.length === 1 ? "card" : "cards"} in {offer.fileName}
          </h2>
          <ul className="my-3 max-h-72 overflow-y-auto shows-more">
            {offer.cards.map((card) => (
              <li key={card.id} className="flex gap-3 border-t border-base-300 py-1 text-sm">
                <span className="grow font-medium">{card.label}</span>
                <span>{card.kind}</span>
                <span className="caption">
                  {card.calibrations.length === 0 ? "not calibrated" : `${card.calibrations.length} calibrations`}
                </span>
              </li>
            ))}
          </ul>
          <p className="caption mb-3">They are added beside the cards that are here; no card is written over.</p>
          <div className="flex gap-2">
            <button type="button" className="btn btn-primary btn-sm" onClick={accept}>
              Add them
            </button>
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => setOffer(null)}>
              Leave them
            </button>
          </div>
        </Sheet>
      )}
    </div>
  );
}
