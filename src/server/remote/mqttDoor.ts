import type { DoorSettings, DoorState, Said } from "@core/remote";
import { cueRootOf, topicsOf } from "@core/remote";
import { connect, type MqttClient } from "mqtt";
import type { Messages } from "./messages";

const againEveryMs = 1000;
const connectWithinMs = 5000;
/** A broker that is told a state learns the next one a moment later: no queue is made of them. */
const queuedAtMost = 200;

type Mqtt = DoorSettings["mqtt"];

/** What is asked of a broker: where, by what name. */
export interface BrokerAsk {
  readonly url: string;
  readonly name: string;
  readonly word: string;
  readonly version: Mqtt["version"];
}

/**
 * The bench as a client of a broker. It comes back by itself after a loss; then nothing is made up for: the session is clean, and what the broker has kept
 * moves nothing.
 */
export class MqttDoor {
  readonly #messages: Messages;
  readonly #isMine: (key: string) => boolean;
  #client: MqttClient | null = null;
  #root = "";
  #ask: BrokerAsk | null = null;
  state: DoorState = { state: "off", sentence: "" };

  constructor(messages: Messages) {
    this.#messages = messages;
    this.#isMine = (key) => (key.startsWith("mqtt:") && !key.startsWith("mqtt:handset/")) || key.startsWith("cue:");
  }

  open(ask: BrokerAsk, root: string): void {
    this.close();
    this.#ask = ask;
    this.#root = root;
    const { url, name, word, version } = ask;
    this.state = { state: "opening", sentence: `Asking ${url}…` };
    const topics = topicsOf(root);
    try {
      const client = connect(url, {
        protocolVersion: version,
        clean: true,
        reconnectPeriod: againEveryMs,
        connectTimeout: connectWithinMs,
        keepalive: 5,
        // What could not be said at its time is not said later.
        queueQoSZero: false,
        ...(name && { username: name }),
        ...(word && { password: word }),
        will: { topic: `${topics.out}/here`, payload: Buffer.from("0"), qos: 0, retain: true },
      });
      this.#client = client;
      client.on("connect", () => {
        if (this.#client !== client) return;
        trouble = "";
        this.state = { state: "open", sentence: `At ${url}, under “${root}”` };
        client.subscribe([topics.in, topics.do, topics.here, topics.cue], { qos: 0 });
        client.publish(`${topics.out}/here`, "1", { retain: true });
      });
      client.on("message", (topic, payload, packet) => {
        if (this.#client === client) this.#messages.hearTopic("MQTT", topic, payload, packet.retain || packet.dup);
      });
      let trouble = "";
      const lose = () => {
        if (this.#client !== client) return;
        const wasOpen = this.state.state === "open";
        this.state = { state: "lost", sentence: `${trouble || `${url} does not answer.`} Trying again…` };
        if (wasOpen) this.#messages.lost("The broker", this.#isMine);
      };
      client.on("close", lose);
      client.on("error", (error) => {
        trouble = `${url}: ${error.message.slice(0, 120)}.`;
        lose();
      });
    } catch (error) {
      this.state = { state: "lost", sentence: `${url}: ${error instanceof Error ? error.message : error}` };
    }
  }

  /** The bench has another root now. */
  setRoot(root: string): void {
    if (this.#ask && root !== this.#root) this.open(this.#ask, root);
  }

  say(said: readonly Said[]): void {
    const client = this.#client;
    if (!client?.connected || client.stream.writableLength > queuedAtMost * 100) return;
    const { out } = topicsOf(this.#root);
    for (const { path, values } of said) client.publish(`${out}/${path}`, JSON.stringify(values), { retain: true });
  }

  /** Says a cue. It is heard back as everybody hears it, so that all begin together. Says whether it could be said. */
  cue(name: string): boolean {
    if (!this.#client?.connected) return false;
    this.#client.publish(`${cueRootOf(this.#root)}/${name}`, "{}", { qos: 0, retain: false });
    return true;
  }

  close(): void {
    const client = this.#client;
    this.#client = null;
    this.#ask = null;
    if (!client) return;
    this.state = { state: "off", sentence: "" };
    if (client.connected) client.publish(`${topicsOf(this.#root).out}/here`, "0", { retain: true });
    client.on("error", () => {});
    client.end();
    this.#messages.lost("The broker", this.#isMine);
  }
}
