import type { Handset as Held } from "@core/remote";
import { Radio } from "@core/sim";
import type { Messages } from "./messages";

const sayEveryMs = 50;
const lookEveryMs = 10;
const fullForMs = 3_600_000;
const battery = { full: 1000, low: 0 };
const thousand = 1000;

/**
 * A handset that is not there: a stick, two buttons, a battery, at a distance. What it says goes over a simulated radio, and then through the same
 * funnel as the messages of any other sender, so that all of it can be tried alone.
 */
export class SimulatedHandset {
  readonly #messages: Messages;
  readonly #nowMs: () => number;
  readonly #radio = new Radio(7);
  #held: Held | null = null;
  #timer: NodeJS.Timeout | undefined;
  #seq = 0;
  #saidMs = 0;
  #onSinceMs = 0;

  constructor(messages: Messages, nowMs: () => number) {
    this.#messages = messages;
    this.#nowMs = nowMs;
  }

  /** It is held like this now. */
  hold(held: Held): void {
    if (held.isOn && !this.#held?.isOn) {
      this.#onSinceMs = this.#nowMs();
      this.#timer = setInterval(() => this.#look(), lookEveryMs);
    }
    if (!held.isOn) clearInterval(this.#timer);
    this.#held = held;
    if (held.isOn) this.#say();
  }

  off(): void {
    clearInterval(this.#timer);
    this.#held = null;
  }

  #look(): void {
    if (this.#nowMs() - this.#saidMs >= sayEveryMs) this.#say();
    for (const message of this.#radio.arrived(this.#nowMs())) {
      const { topic, payload } = JSON.parse(message) as { topic: string; payload: string };
      this.#messages.hearTopic("Handset", topic, Buffer.from(payload), false);
    }
  }

  #say(): void {
    const held = this.#held;
    if (!held) return;
    this.#saidMs = this.#nowMs();
    this.#seq += 1;
    const usedMs = this.#saidMs - this.#onSinceMs;
    const parts = {
      across: held.across * thousand,
      up: held.up * thousand,
      first: held.first,
      second: held.second,
      battery: Math.round(Math.max(battery.low, battery.full * (1 - usedMs / fullForMs))),
    };
    for (const [part, value] of Object.entries(parts)) {
      const payload = JSON.stringify({ value, seq: this.#seq, at: Math.round(this.#saidMs), from: "handset" });
      const topic = `${this.#messages.wants.root}/in/handset/${part}`;
      this.#radio.send(JSON.stringify({ topic, payload }), held.distanceM, this.#saidMs);
    }
  }
}
