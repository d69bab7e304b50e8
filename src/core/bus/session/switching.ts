import { rawIn, registerFor } from "../registers/registers";
import { readRequest } from "../registers/requests";
import { sensedStretch } from "../registers/telemetry";
import { troublesIn } from "../registers/troubles";
import { rank } from "../wire/wire";
import type { DeviceTalk } from "./deviceTalk";
import { type DeviceNews, holdWhereItStands, type LiveDevice, ticksOfPlay } from "./liveDevice";

/** Lets devices push and lets them go. None pushes before it is known where it stands, and that it may stand there. */
export class Switching {
  readonly #talk: DeviceTalk;
  readonly #isBusy: () => boolean;
  readonly #onNews: (news: DeviceNews) => void;

  /** `isBusy`: something that a person asked for runs. */
  constructor(talk: DeviceTalk, isBusy: () => boolean, onNews: (news: DeviceNews) => void) {
    this.#talk = talk;
    this.#isBusy = isBusy;
    this.#onNews = onNews;
  }

  off(device: LiveDevice): void {
    if (device.isSwitching) return;
    device.isSwitching = true;
    this.#talk.write(device, "torque", 0, (answer) => {
      device.isSwitching = false;
      if (answer.replies.length > 0 && Number.isNaN(device.wanted)) device.phase = "limp";
    });
  }

  /** Finds out where it stands, makes that its goal, and only then lets it push. */
  on(device: LiveDevice): void {
    const stretch = sensedStretch(device.layout);
    const bytes = stretch && readRequest(device.layout, device.id, stretch.address, stretch.count);
    // Not while something that a person asked for runs: it was let through because this servo was limp, and may change what is read here.
    if (!stretch || !bytes || device.isSwitching || this.#isBusy()) return;
    device.isSwitching = true;
    device.phase = "waking";
    const giveUp = () => {
      device.isSwitching = false;
      if (device.phase === "waking") device.phase = "unknown";
    };
    this.#talk.ask(device, bytes, stretch.count, rank.torque, 3, (answer) => {
      if (!this.#talk.hear(device, stretch.address, answer)) return giveUp();
      const { position } = device.telemetry;
      const { low, high } = device.window;
      const play = ticksOfPlay(device);
      if (position < low - play || position > high + play) return this.#leaveLimp(device, "outside");
      this.#talk.readRole(device, "mode", giveUp, (modeRaw) => {
        const mode = device.layout.modes.find(({ value }) => value === modeRaw)?.kind ?? "position";
        if (mode === "velocity") return this.#leaveLimp(device, "turning");
        this.#talk.readRole(device, "lowestPosition", giveUp, (lowest) =>
          this.#talk.readRole(device, "highestPosition", giveUp, (highest) => {
            // Over many turns these limits do not hold; else it would leap to them as soon as it may push.
            const isFree = mode === "multiTurn" || lowest === null || highest === null;
            if (isFree || (position >= lowest - play && position <= highest + play)) this.#place(device, giveUp);
            else this.#leaveLimp(device, "ends");
          }),
        );
      });
    });
  }

  /** Makes where it stands its goal, and then lets it push. */
  #place(device: LiveDevice, giveUp: () => void): void {
    const { position } = device.telemetry;
    this.#talk.write(device, "goalPosition", position, (placed) => {
      if (placed.replies.length === 0 || Number.isNaN(device.wanted)) return giveUp();
      this.#talk.write(device, "torque", 1, (switched) => {
        if (switched.replies.length === 0 || Number.isNaN(device.wanted)) return giveUp();
        device.isSwitching = false;
        holdWhereItStands(device);
      });
    });
  }

  #leaveLimp(device: LiveDevice, kind: DeviceNews["kind"]): void {
    device.isSwitching = false;
    device.phase = "limp";
    device.wanted = Number.NaN;
    this.#onNews({ id: device.id, kind, error: 0 });
  }

  /** Reads whether it still holds: one that was restarted, or let go by itself, is limp, and stays so until a person holds it. */
  look(device: LiveDevice, since: "back" | "held"): void {
    if (device.isSwitching) return;
    const torque = registerFor(device.layout, "torque");
    const bytes = torque && readRequest(device.layout, device.id, torque.address, torque.size);
    if (!torque || !bytes) return;
    device.isSwitching = true;
    this.#talk.ask(device, bytes, torque.size, rank.torque, 3, (answer) => {
      device.isSwitching = false;
      const reply = answer.replies[0];
      if (!reply) {
        if (device.phase === "waking") device.phase = "unknown";
        return;
      }
      const isHeld = rawIn(device.layout, torque, reply.packet.parameters) !== 0;
      const { error } = device.telemetry;
      if (!isHeld) {
        if (device.phase === "limp") return;
        device.phase = "limp";
        device.wanted = Number.NaN;
        const didLetGo = troublesIn(device.layout, error).some(({ letsGo }) => letsGo);
        this.#onNews({ id: device.id, kind: didLetGo ? "letGo" : "restarted", error });
        return;
      }
      if (device.phase === "held") return;
      // It kept its place meanwhile: from there it is led on.
      holdWhereItStands(device);
      if (since === "back") this.#onNews({ id: device.id, kind: "back", error });
    });
  }
}
