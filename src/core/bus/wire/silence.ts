import type { Layout } from "@core/project";
import type { Packet } from "../packets/packet";
import { isAnswered } from "../registers/requests";

/** A device that somebody may have meant, as far as the reason of a silence needs it. */
export interface KnownDevice {
  readonly id: number;
  readonly layout: Layout;
  /** It was found at another speed than the bus runs at. */
  readonly strayBitsPerS: number | null;
}

/** The likely cause of a silence after a packet, the likeliest first; null for bytes that are no packet. */
export function whySilent(layout: Layout, packet: Packet | null, devices: readonly KnownDevice[]): string {
  if (!packet) return "Silence: a packet that is not right is ignored without a word. See above what is wrong with it.";
  const { id } = packet;
  const operation = layout.operations.find(({ code }) => code === packet.operation);
  if (operation?.reply === null) return "Silence, as it should be: nobody answers to this operation.";
  if (operation && !isAnswered(operation, packet))
    return `Silence, as it should be: ${layout.name} answers to “${operation.label}” only when asked to.`;
  if (id === layout.broadcastId) return "Silence, as it should be: what goes to all is answered by nobody.";
  const device = devices.find((one) => one.id === id);
  if (!device)
    return `Silence. Nobody is known to be number ${id}: scan the wire. Else the speed of the bus, the plug, or the supply.`;
  if (device.layout.id !== layout.id)
    return `Silence: number ${id} is a ${device.layout.name}, and does not know the packets of a ${layout.name}.`;
  if (device.strayBitsPerS !== null) return `Silence: number ${id} was found at another speed than the bus runs at.`;
  return `Silence. Number ${id} should be there: its plug, its supply, or a reply that got lost. Send it again.`;
}

/** What an operation carries, in words; “none” for nothing. */
export function parameterWords(layout: Layout, code: number): string {
  const pieces = layout.operations.find((one) => one.code === code)?.request ?? [];
  const words = pieces.map((piece) => {
    if (piece.kind === "each") return piece.withData ? "id and data of each" : "id of each";
    if (piece.kind === "constant") return "fixed";
    return piece.kind === "data" ? "data" : `${piece.kind} (${piece.size})`;
  });
  return words.join(", ") || "none";
}
