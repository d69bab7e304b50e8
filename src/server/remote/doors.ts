import { type DoorSettings, type DoorsStanding, type Handset, type Said, shutDoors, type Wants } from "@core/remote";
import { Broker } from "./broker";
import { SimulatedHandset } from "./handset";
import { type MessageEars, Messages } from "./messages";
import { MqttDoor } from "./mqttDoor";
import { OscDoor } from "./oscDoor";
import { SacnDoor } from "./sacnDoor";

/** The doors for messages of other machines, all into one funnel. Shut until the bench wants them, and while there is no bench. */
export class MessageDoors {
  readonly #messages: Messages;
  readonly #mqtt: MqttDoor;
  readonly #broker: Broker;
  readonly #osc: OscDoor;
  readonly #sacn: SacnDoor;
  readonly #handset: SimulatedHandset;
  #settings: DoorSettings = shutDoors;
  #lan: readonly string[] = [];
  /** One change after the other: a port must be shut before it is opened anew. */
  #turn: Promise<void> = Promise.resolve();

  constructor(ears: MessageEars) {
    this.#messages = new Messages(ears);
    this.#broker = new Broker(() => ears.note("MQTT", "refused", "A client said too much, and was shown the door."));
    this.#mqtt = new MqttDoor(this.#messages);
    this.#osc = new OscDoor(this.#messages);
    this.#sacn = new SacnDoor(this.#messages, ears.nowMs);
    this.#handset = new SimulatedHandset(this.#messages, ears.nowMs);
  }

  /** Opens and shuts them as they are set. `lan` holds this computer's addresses while others are let in. */
  set(settings: DoorSettings, lan: readonly string[]): void {
    const [before, lanBefore] = [this.#settings, this.#lan];
    this.#settings = settings;
    this.#lan = lan;
    const isSame = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
    const isSameLan = isSame(lan, lanBefore);
    this.#turn = this.#turn
      .then(async () => {
        const { mqtt, osc, sacn } = settings;
        if (!isSame(mqtt, before.mqtt) || (mqtt.isOut && !isSameLan)) await this.#openMqtt(mqtt);
        if (!isSame(osc, before.osc) || (osc.isOut && !isSameLan)) {
          if (osc.isOn) await this.#osc.open(osc, osc.isOut ? lan : [], this.#messages.wants.root);
          else this.#osc.close();
        }
        if (!isSame(sacn, before.sacn) || (sacn.isOut && !isSameLan)) {
          if (sacn.isOn) await this.#sacn.open(sacn, sacn.isOut && lan.length > 0);
          else this.#sacn.close();
        }
      })
      .catch(() => {});
  }

  async #openMqtt(mqtt: DoorSettings["mqtt"]): Promise<void> {
    this.#mqtt.close();
    if (mqtt.via !== "inside") await this.#broker.close();
    if (mqtt.via === "off") return;
    const { root } = this.#messages.wants;
    if (mqtt.via === "broker") {
      this.#mqtt.open({ url: mqtt.address, name: mqtt.name, word: mqtt.word, version: mqtt.version }, root);
      return;
    }
    // Without a word nobody of the network comes in.
    const isOut = mqtt.isOut && mqtt.insideWord !== "";
    await this.#broker.open(mqtt, isOut ? this.#lan : [], () => this.#messages.wants.root);
    // It speaks 3.1.1 alone.
    if (this.#broker.state.state === "open")
      this.#mqtt.open({ url: `mqtt://127.0.0.1:${mqtt.port}`, name: "", word: "", version: 4 }, root);
  }

  setWants(wants: Wants): void {
    const isNewRoot = wants.root !== this.#messages.wants.root;
    this.#messages.setWants(wants);
    this.#sacn.setKeys(wants.keys);
    if (!isNewRoot) return;
    this.#mqtt.setRoot(wants.root);
    if (this.#settings.osc.isOn && this.#settings.osc.to)
      this.#turn = this.#turn
        .then(() => this.#osc.open(this.#settings.osc, this.#settings.osc.isOut ? this.#lan : [], wants.root))
        .catch(() => {});
  }

  say(said: readonly Said[]): void {
    this.#mqtt.say(said);
    this.#osc.say(said);
  }

  /** Says a cue to all who share it. Without a broker only this bench hears it. */
  cue(name: string): void {
    if (!this.#mqtt.cue(name)) this.#messages.hearCue(name);
  }

  hold(handset: Handset): void {
    this.#handset.hold(handset);
  }

  /** The bench is gone: nobody listens any more. */
  shut(): Promise<void> {
    this.#handset.off();
    this.set(shutDoors, []);
    return this.#turn;
  }

  get standing(): DoorsStanding {
    return {
      mqtt: this.#mqtt.state,
      broker: this.#broker.state,
      osc: this.#osc.state,
      sacn: this.#sacn.state,
      heard: this.#messages.heard,
      taken: this.#messages.taken,
      refused: this.#messages.refused,
    };
  }
}
