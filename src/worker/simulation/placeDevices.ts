import { layoutById, turnOnCard } from "@core/bus";
import type { DeviceMemories } from "@core/files";
import { type Board, byId, type Layout, type Project, type SmartCard } from "@core/project";
import { newCard } from "@core/servo";
import { SimDevice, SimServo, seededRandom, seedOf, truthOf } from "@core/sim";

/** A simulated device on the table, plugged in or beside the wire. */
export interface Placed {
  readonly key: string;
  readonly label: string;
  readonly device: SimDevice;
  isPlugged: boolean;
}

/**
 * The simulated devices of a bus: one for each joint on it, and those that lie beside it. One that has a memory is as it was left; a joint's own without a
 * memory has the joint's number and the speed of the bus.
 */
export function placeDevices(
  board: Board,
  project: Project,
  servos: ReadonlyMap<string, SimServo>,
  memories: DeviceMemories,
  onStored: () => void,
): Placed[] {
  const boxed = project.simulatedDevices.filter((entry) => entry.boardId === board.id);
  const taken = new Set(boxed.map((entry) => entry.cardId));
  const joints = project.joints.filter((joint) => joint.boardId === board.id && !taken.has(joint.cardId));
  const entries = [
    ...joints.map(({ cardId, label, channel }) => ({
      key: cardId,
      label,
      layoutId: (byId(project.cards, cardId) as SmartCard).layoutId,
      cardId,
      id: channel,
    })),
    ...boxed.map((entry) => ({
      key: entry.id,
      label: project.cards.find((card) => card.id === entry.cardId)?.label ?? entry.label,
      layoutId: entry.layoutId,
      cardId: entry.cardId,
      id: null,
    })),
  ];
  return entries.flatMap(({ key, label, layoutId, cardId, id }) => {
    const layout = layoutById(project, layoutId);
    if (!layout) return [];
    const memory = memories[key];
    const servo = (cardId !== null && servos.get(cardId)) || servoOutOfTheBox(layout, key);
    const random = seededRandom(seedOf(key));
    // Every now and then one takes its time: two of those with one id are heard one after the other.
    const slackUs = 5 + 65 * random() + (random() < 0.3 ? 900 : 0);
    const device = new SimDevice(layout, servo, memory?.stored ?? {}, slackUs, onStored);
    if (!memory && id !== null) {
      const rate = layout.bitRates.find(
        ({ bitsPerS }) => board.encoding.kind === "bus" && bitsPerS === board.encoding.bitsPerS,
      );
      device.set("id", id);
      if (rate) device.set("bitRate", rate.value);
    }
    return [{ key, label, device, isPlugged: memory?.isPlugged ?? cardId !== null }];
  });
}

/** A servo nobody has put a horn on yet: it stands in its middle. */
function servoOutOfTheBox(layout: Layout, key: string): SimServo {
  const out = newCard("smart", key, key) as SmartCard;
  return new SimServo(truthOf({ ...out, ...turnOnCard(layout) }, []));
}
