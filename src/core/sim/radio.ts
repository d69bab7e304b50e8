import { seededRandom } from "./random";

/** As far as this a radio of a hobbyist's reaches without a fault. */
const goodM = 8;
/** And from here on nothing comes through. */
const goneM = 60;
const quickestMs = 2;
const longestMs = 350;

interface OnItsWay {
  readonly message: string;
  readonly atMs: number;
}

/** What distance does to a simulated radio: messages are lost, late, doubled, and overtake each other, the more the further away it is. */
export class Radio {
  readonly #random: () => number;
  #way: OnItsWay[] = [];

  constructor(seed: number) {
    this.#random = seededRandom(seed);
  }

  /** What share of the messages is lost at a distance. */
  static lossAt(distanceM: number): number {
    return Math.min(Math.max((distanceM - goodM) / (goneM - goodM), 0), 1) ** 1.5;
  }

  send(message: string, distanceM: number, nowMs: number): void {
    const loss = Radio.lossAt(distanceM);
    const copies = this.#random() < loss * 0.4 ? 2 : 1;
    for (let copy = 0; copy < copies; copy += 1)
      if (this.#random() >= loss)
        this.#way.push({ message, atMs: nowMs + quickestMs + this.#random() * (longestMs - quickestMs) * loss });
  }

  /** What has arrived by now, in the order in which it did. */
  arrived(nowMs: number): readonly string[] {
    const there = this.#way.filter(({ atMs }) => atMs <= nowMs).sort((a, b) => a.atMs - b.atMs);
    this.#way = this.#way.filter(({ atMs }) => atMs > nowMs);
    return there.map(({ message }) => message);
  }
}
