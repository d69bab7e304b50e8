import type { Outlook } from "./camera";

/** From where the large picture is looked at. It changes with every move of a pointer, so views listen to it without being rendered anew. */
export class Lookout {
  #outlook: Outlook;
  readonly #calls = new Set<() => void>();

  constructor(outlook: Outlook) {
    this.#outlook = outlook;
  }

  get outlook(): Outlook {
    return this.#outlook;
  }

  set(change: Partial<Outlook>): void {
    const { upDeg, farMm } = { ...this.#outlook, ...change };
    this.#outlook = {
      ...this.#outlook,
      ...change,
      upDeg: Math.max(-89, Math.min(89, upDeg)),
      farMm: Math.max(60, Math.min(40_000, farMm)),
    };
    for (const call of this.#calls) call();
  }

  /** Calls back when it changes. Gives the way to stop. */
  listen(call: () => void): () => void {
    this.#calls.add(call);
    return () => void this.#calls.delete(call);
  }
}

/** Views that people ask for by name. */
export const outlooks = [
  { id: "front", name: "Front", key: "1", aroundDeg: 0, upDeg: 6 },
  { id: "left", name: "Left", key: "2", aroundDeg: 90, upDeg: 6 },
  { id: "above", name: "Above", key: "3", aroundDeg: 0, upDeg: 89 },
  { id: "corner", name: "Corner", key: "4", aroundDeg: 35, upDeg: 24 },
] as const;
