import type { DeviceMemories, DeviceMemory } from "@core/files";
import type { Board, Project } from "@core/project";
import { SimBus, type SimServo } from "@core/sim";
import type { PacketWire } from "../links/link";
import { type Placed, placeDevices } from "./placeDevices";
import type { SimulationAsk, TableReport } from "./simulationMessages";

/** A simulated bus: the wire, the devices on it, and those that lie beside it. */
export class SimBusEnd implements PacketWire {
  readonly life = { kind: "open" } as const;
  readonly isOwnTime = true;
  /** Here nobody outlives the page. */
  lastWords = new Uint8Array(0);
  isPlugged = true;
  onBytes: PacketWire["onBytes"] = () => {};
  readonly #boardId: string;
  readonly #bus: SimBus;
  readonly #placed: readonly Placed[];
  readonly #onSent: (boardId: string, bytes: Uint8Array) => void;
  readonly #onStored: () => void;

  constructor(
    board: Board,
    project: Project,
    servos: ReadonlyMap<string, SimServo>,
    memories: DeviceMemories,
    onSent: (boardId: string, bytes: Uint8Array) => void,
    onStored: () => void,
  ) {
    this.#boardId = board.id;
    this.#onSent = onSent;
    this.#onStored = onStored;
    this.#bus = new SimBus((bytes, atUs) => {
      if (this.isPlugged) this.onBytes(bytes, atUs);
    });
    this.#placed = placeDevices(board, project, servos, memories, onStored);
    this.#plugIn();
  }

  /** What wires it otherwise makes it anew. */
  follow(): void {}

  send(bytes: Uint8Array, bitsPerS: number, atUs: number): void {
    this.#onSent(this.#boardId, bytes);
    if (this.isPlugged) this.#bus.receive(bytes, bitsPerS, atUs);
  }

  close(): void {}

  get nextEventUs(): number {
    return this.#bus.nextEventUs;
  }

  /** Lets arrive what has been said by then, in µs. */
  arriveUntil(nowUs: number): void {
    this.#bus.advance(nowUs);
  }

  /** Has the wiring say what reaches each device, by its card; NaN for what it does not know. */
  feedBy(voltsOf: (cardId: string) => number): void {
    const keys = new Map(this.#placed.map(({ device, key }) => [device, key]));
    this.#bus.feed = (device) => voltsOf(keys.get(device) ?? "");
  }

  /** Lets the devices live on; also while the plug is pulled. */
  advance(nowMs: number, dtMs: number): void {
    this.#bus.step(nowMs, dtMs);
  }

  ask(ask: SimulationAsk, nowMs: number): void {
    const placed = "key" in ask ? this.#placed.find(({ key }) => key === ask.key) : undefined;
    switch (ask.kind) {
      case "plug":
        this.isPlugged = ask.isPlugged;
        break;
      case "plugDevice":
        if (placed) placed.isPlugged = ask.isPlugged;
        this.#plugIn();
        this.#onStored();
        break;
      case "faults":
        this.#bus.faults = ask.faults;
        break;
      case "brownOut":
        this.#bus.brownOut(nowMs);
        break;
      case "overload":
        if (placed) placed.device.isOverloaded = true;
        break;
      case "heat":
        if (placed) placed.device.isHot = ask.isHot;
        break;
      case "forceId":
        placed?.device.force("id", ask.id);
        break;
      case "turnByHand":
        placed?.device.servo.turnByHand(ask.byDeg);
        break;
    }
  }

  /** What the devices keep without supply. */
  get memories(): DeviceMemories {
    return Object.fromEntries(
      this.#placed.map(({ key, isPlugged, device }): [string, DeviceMemory] => [
        key,
        { isPlugged, stored: device.stored },
      ]),
    );
  }

  get table(): TableReport {
    const devices = this.#placed.map(({ key, label, device, isPlugged }) => ({
      key,
      label,
      layoutId: device.layout.id,
      isPlugged,
      isHot: device.isHot,
    }));
    return { boardId: this.#boardId, devices, faults: this.#bus.faults };
  }

  #plugIn(): void {
    this.#bus.devices = this.#placed.filter(({ isPlugged }) => isPlugged).map(({ device }) => device);
  }
}
