import { createStore } from "zustand/vanilla";

export interface Notice {
  readonly id: number;
  readonly sentence: string;
  readonly tone: "info" | "warning";
}

const shownMs = 7000;
const shownAtMost = 3;
let nextId = 1;

/** Sentences for the person that belong to no field: what was held back, lost, saved. */
export const noticeStore = createStore<readonly Notice[]>()(() => []);

/** Shows a sentence for a while. The same sentence is not stacked upon itself. */
export function notify(sentence: string, tone: Notice["tone"] = "info"): void {
  const id = nextId++;
  const others = noticeStore.getState().filter((notice) => notice.sentence !== sentence);
  noticeStore.setState([...others, { id, sentence, tone }].slice(-shownAtMost), true);
  setTimeout(() => dismiss(id), shownMs);
}

export function dismiss(id: number): void {
  noticeStore.setState(
    noticeStore.getState().filter((notice) => notice.id !== id),
    true,
  );
}
