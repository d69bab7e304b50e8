/** Measurements that are not saved on a card yet outlive a reload in the tab's own store. */
const placeOf = (cardId: string) => `vantel.measuring.${cardId}`;

export function keepDraft(cardId: string, draft: unknown): void {
  sessionStorage.setItem(placeOf(cardId), JSON.stringify(draft));
}

/** What was kept under this card, or null. It was written by this page, so its form is trusted. */
export function readDraft<Draft>(cardId: string): Draft | null {
  const kept = sessionStorage.getItem(placeOf(cardId));
  return kept ? (JSON.parse(kept) as Draft) : null;
}
