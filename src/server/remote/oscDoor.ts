import { createSocket, type Socket } from "node:dgram";
import { afarKeys, oscAddress } from "@core/origins";
import type { DoorSettings, DoorState, Said } from "@core/remote";
import { decode, encode, Message } from "node-osc";
import type { HeardValue, Messages } from "./messages";

/** One packet of a local network; what is longer is no desk. */
const packetBytesAtMost = 1472;
const argumentsAtMost = 16;
const elementsAtMost = 64;
const addressAtMost = 120;

interface OscMessage {
  readonly oscType: "message";
  readonly address: string;
  readonly args: readonly { readonly value: unknown }[];
}
type OscPacket = OscMessage | { readonly oscType: "bundle"; readonly elements: readonly OscPacket[] };

/** Messages of show desks and tablets over UDP (Open Sound Control 1.0). */
export class OscDoor {
  readonly #messages: Messages;
  #sockets: Socket[] = [];
  #to: { readonly host: string; readonly port: number } | null = null;
  #root = "";
  state: DoorState = { state: "off", sentence: "" };

  constructor(messages: Messages) {
    this.#messages = messages;
  }

  async open({ port, to }: DoorSettings["osc"], addresses: readonly string[], root: string): Promise<void> {
    this.close();
    this.#root = root;
    const [host, toPort] = to.split(":");
    this.#to = host && toPort ? { host, port: Number(toPort) } : null;
    try {
      for (const one of ["127.0.0.1", ...addresses]) {
        const socket = createSocket("udp4");
        await new Promise<void>((resolve, reject) => {
          socket.once("error", reject);
          socket.bind(port, one, resolve);
        });
        socket.on("error", () => {});
        socket.on("message", (packet, { address: from }) => this.#hear(packet, `OSC ${from}`));
        this.#sockets.push(socket);
      }
      this.state = {
        state: "open",
        sentence: `At ${["127.0.0.1", ...addresses].map((one) => `${one}:${port}`).join(" and ")}${this.#to ? `, said to ${to}` : ""}`,
      };
    } catch (error) {
      this.close();
      this.state = {
        state: "lost",
        sentence: `UDP port ${port} could not be opened (${(error as NodeJS.ErrnoException).code}). Another program may have it.`,
      };
    }
  }

  say(said: readonly Said[]): void {
    const [socket] = this.#sockets;
    if (!socket || !this.#to) return;
    for (const { path, values } of said) {
      const list = Object.values(values).map((value) =>
        value === null ? "" : typeof value === "boolean" ? Number(value) : value,
      );
      const packet = encode(new Message(`/${this.#root}/out/${path}`, ...list));
      socket.send(packet, this.#to.port, this.#to.host, () => {});
    }
  }

  close(): void {
    for (const socket of this.#sockets) socket.close();
    if (this.#sockets.length > 0) this.#messages.lost("The OSC door", (key) => key.startsWith("osc:"));
    this.#sockets = [];
    this.state = { state: "off", sentence: "" };
  }

  #hear(packet: Buffer, who: string): void {
    if (!this.#messages.admits(who)) return;
    const values = packet.length <= packetBytesAtMost ? valuesIn(packet) : null;
    if (!values) this.#messages.odd(who);
    else this.#messages.hearValues(who, values);
  }
}

/** The numbers in a packet, a message or a bundle of them, each by its address and its place; null for what is no such packet. */
export function valuesIn(packet: Buffer): readonly HeardValue[] | null {
  try {
    // Whole words of four bytes, and nothing that holds nothing: what the standard asks of every packet.
    if (packet.length < 8 || packet.length % 4 !== 0) return null;
    const values: HeardValue[] = [];
    return collect(decode(packet) as OscPacket, values, 0) ? values : null;
  } catch {
    return null;
  }
}

function collect(packet: OscPacket, values: HeardValue[], depth: number): boolean {
  if (packet.oscType === "bundle")
    return (
      depth < 4 &&
      packet.elements.length <= elementsAtMost &&
      packet.elements.every((one) => collect(one, values, depth + 1))
    );
  if (packet.address.length > addressAtMost || !oscAddress.test(packet.address)) return false;
  for (const [at, { value }] of packet.args.slice(0, argumentsAtMost).entries()) {
    const number = typeof value === "boolean" ? Number(value) : value;
    if (typeof number === "number" && Number.isFinite(number))
      values.push({ key: afarKeys.osc(packet.address, at), value: number });
  }
  // A message without a number is a press.
  if (packet.args.length === 0) values.push({ key: afarKeys.osc(packet.address, 0), value: 1 });
  return true;
}
