import { alarmsOf, type BusSession, type DeviceNews, errorsIn, troublesIn } from "@core/bus";
import type { Project } from "@core/project";
import type { BusJoint } from "./busRuns";

const alarmEveryMs = 500;

/** What a device did by itself, as a sentence for a person. */
export function newsSentence({ joint, layout }: BusJoint, { kind, error }: DeviceNews): string {
  const who = `${joint.label} (id ${joint.channel})`;
  const why = layout ? errorsIn(layout, error) : [];
  const hint = layout ? (troublesIn(layout, error)[0]?.hint ?? "") : "";
  const sentences = {
    silent: `${who} does not answer. Its plug, its supply, the speed of the bus, or another device with its id are the likely causes. It keeps its place as long as it has its supply.`,
    back: `${who} answers again; it is led on from where it stands.`,
    restarted: `${who} was started anew, most likely by a dip of its supply, and is limp. Hold it to go on: it begins where it stands.`,
    outside: `${who} stands outside the hard window of its card, and stays limp: to go there it would have to be driven outside it. Turn it inside by hand, or measure the window anew.`,
    turning: `${who} is set to turn on and on, and stays limp. Set its way of moving to places, on the Bus page, then hold it again.`,
    ends: `${who} has position limits of its own that do not hold the place where it stands, and stays limp: it would leap to them. Widen them on the Bus page, or turn it inside by hand.`,
    letGo: `${who} has let go by itself: ${why.join(", ") || "it does not say why"}. ${hint}`,
  };
  return sentences[kind].trim();
}

/** Says once when a joint goes beyond what its card allows, and once more when it does so after it was well. */
export class BusAlarms {
  #lookedMs = 0;
  readonly #alarmed = new Set<string>();

  look(nowMs: number, joints: readonly BusJoint[], project: Project, session: BusSession): readonly string[] {
    if (nowMs - this.#lookedMs < alarmEveryMs) return [];
    this.#lookedMs = nowMs;
    return joints.flatMap(({ joint }) => {
      const card = project.cards.find(({ id }) => id === joint.cardId);
      const telemetry = session.telemetryOf(joint.channel);
      if (card?.kind !== "smart" || !telemetry || Number.isNaN(telemetry.atUs)) return [];
      const beyond = alarmsOf(card.alarms, telemetry);
      if (beyond.length === 0) {
        this.#alarmed.delete(joint.id);
        return [];
      }
      if (this.#alarmed.has(joint.id)) return [];
      this.#alarmed.add(joint.id);
      return [`${joint.label} is beyond its limits: ${beyond.join("; ")}.`];
    });
  }
}
