import { type Control, isHeldToMove, sourcesOf } from "@core/controls";
import type { Command } from "@core/engine";
import { reachOf } from "@core/pads";
import type { Project } from "@core/project";
import type { Range } from "@core/schema";
import { dequal } from "dequal";
import type { Hand } from "./padTalk";
import { type Device, mayUse } from "./rights";

/** A message that was on its way for longer moves nothing. */
const lateAfterMs = 500;
/** A press that is older is not made up for. */
const pressGoodForMs = 700;
/** What moves only while it is held stops so long after the thumb was last known to be there: with a frame's time to spare within 300 ms. */
export const aliveForMs = 250;
/** A pad that said nothing for so long has vanished. It says something four times a second at least. */
export const silentAfterMs = 1000;

/** What was made of a message. */
export type Heard = "taken" | "old" | "late" | "unknown";

/** What a pad's hands do on the bench. Times are of the bench's own clock. */
export interface Doing {
  /** Gives a command to the engine, on behalf of a device. */
  readonly act: (command: Command, deviceId: string) => void;
  /** Tells a device in a sentence what was refused. */
  readonly tell: (deviceId: string, sentence: string) => void;
  /** A device has vanished, and with it these sources, by label. */
  readonly onVanished: (device: Device, labels: readonly string[]) => void;
}

interface Booked {
  readonly control: Control;
  readonly padId: string;
  readonly reaches: readonly string[];
}

interface Thumb {
  isDown: boolean;
  downs: number;
  /** What was passed on of it last, so that what only stays takes nothing from others. */
  x: number | null;
  y: number | null;
  /** Its refusal was told. */
  isRefused: boolean;
}

interface LiveDevice {
  device: Device;
  run: number;
  seq: number;
  heardMs: number;
  /** When its thumbs were last known to be where they are: the moment at which the newest message left it. */
  aliveMs: number;
  isSilent: boolean;
  readonly thumbs: Map<string, Thumb>;
}

/**
 * The thumbs on all pads. Messages come late, doubled, overtaking or never; what is passed on to the engine are commands like those of any other source, each
 * at most once, never an older one behind a newer one. The first thumb on a source has it until it leaves. What a message says is bound by the rights of its device.
 */
export class PadHands {
  readonly #doing: Doing;
  #booked = new Map<string, Booked>();
  #ranges = new Map<string, { readonly range: Range; readonly label: string }>();
  #live = new Map<string, LiveDevice>();
  /** Whose thumb is on a source. */
  readonly #holders = new Map<string, string>();
  /** Whose thumb moved a source last. */
  readonly #feeders = new Map<string, string>();

  constructor(doing: Doing) {
    this.#doing = doing;
  }

  /** Takes the document. A thumb on what is gone, or works something else now, is off it. */
  configure(project: Project): void {
    this.#ranges = new Map(project.sources.map(({ id, range, label }) => [id, { range, label }]));
    const before = this.#booked;
    this.#booked = new Map(
      project.pads.flatMap(({ id: padId, controls }) =>
        controls.map((control) => [control.id, { control, padId, reaches: reachOf(project, control) }] as const),
      ),
    );
    for (const live of this.#live.values())
      for (const [id, thumb] of live.thumbs) {
        const [old, now] = [before.get(id), this.#booked.get(id)];
        // It may work other sources now: those of before are let go as they were taken.
        const isSame = dequal(old?.control, now?.control);
        if (!now || !isSame || !this.#mayWork(live.device, now)) this.#lift(live, id, thumb, old?.control ?? null);
      }
  }

  /** Says who is let in, and what each may do. A thumb that may not any more is off. */
  setDevices(devices: readonly Device[]): void {
    for (const [id, live] of this.#live) {
      const device = devices.find((one) => one.id === id);
      if (!device) this.gone(id);
      else {
        live.device = device;
        for (const [controlId, thumb] of live.thumbs) {
          const booked = this.#booked.get(controlId);
          if (booked && !this.#mayWork(device, booked)) this.#lift(live, controlId, thumb, booked.control);
        }
      }
    }
    for (const device of devices)
      if (!this.#live.has(device.id))
        this.#live.set(device.id, {
          device,
          run: -1,
          seq: -1,
          heardMs: Number.NaN,
          aliveMs: Number.NaN,
          isSilent: true,
          thumbs: new Map(),
        });
  }

  /**
   * A message of a device: how its thumbs stood when it left there, at `sentMs`. `run` counts its connections.
   * @param downsMs when each hand was put down last, in the order of the hands
   */
  hear(
    deviceId: string,
    { run, seq, hands }: { readonly run: number; readonly seq: number; readonly hands: readonly Hand[] },
    sentMs: number,
    downsMs: readonly number[],
    nowMs: number,
  ): Heard {
    const live = this.#live.get(deviceId);
    if (!live) return "unknown";
    if (run < live.run || (run === live.run && seq <= live.seq)) return "old";
    if (run > live.run) {
      this.#vanish(live);
      // Its counters begin anew.
      live.thumbs.clear();
    }
    live.run = run;
    live.seq = seq;
    // Not “is older”: what is no time is late as well.
    if (!(nowMs - sentMs <= lateAfterMs)) return "late";
    live.heardMs = nowMs;
    live.aliveMs = Math.min(sentMs, nowMs);
    if (live.isSilent) this.#comeBack(live);
    const there = new Set<string>();
    for (const [at, hand] of hands.entries()) {
      const booked = this.#booked.get(hand.id);
      if (!booked || there.has(hand.id)) continue;
      there.add(hand.id);
      const pressedMs = nowMs - (downsMs[at] ?? Number.NaN);
      this.#take(live, booked, hand, pressedMs <= pressGoodForMs, nowMs - sentMs <= aliveForMs);
    }
    for (const [id, thumb] of live.thumbs)
      if (!there.has(id)) this.#lift(live, id, thumb, this.#booked.get(id)?.control ?? null);
    return "taken";
  }

  /** Lets time pass: whoever is not heard of any more is not there. */
  tick(nowMs: number): void {
    for (const live of this.#live.values()) {
      if (live.isSilent) continue;
      if (nowMs - live.aliveMs > aliveForMs) this.#stopHeld(live);
      if (nowMs - live.heardMs > silentAfterMs) this.#vanish(live);
    }
  }

  /** A device is gone: its connection is closed, or it was thrown out. */
  gone(deviceId: string): void {
    const live = this.#live.get(deviceId);
    if (!live) return;
    this.#vanish(live);
    this.#live.delete(deviceId);
  }

  /** The connection of a device is closed; it may come back. */
  lost(deviceId: string): void {
    const live = this.#live.get(deviceId);
    if (live) this.#vanish(live);
  }

  /** Somebody at the bench moved a source: it is no pad's any more. */
  movedHere(sourceId: string): void {
    this.#feeders.delete(sourceId);
  }

  /** Who has a thumb on which control. */
  get touches(): readonly { readonly deviceId: string; readonly who: string; readonly controlId: string }[] {
    const touches = [];
    for (const { device, thumbs } of this.#live.values())
      for (const [controlId, { isDown }] of thumbs)
        if (isDown) touches.push({ deviceId: device.id, who: device.name, controlId });
    return touches;
  }

  #mayWork({ rights }: Device, { padId, reaches }: Booked): boolean {
    return (rights.padId === null || rights.padId === padId) && mayUse(rights, reaches);
  }

  #take(live: LiveDevice, booked: Booked, said: Hand, isFresh: boolean, isAlive: boolean): void {
    const { control } = booked;
    // Of a thumb that may have left meanwhile nothing is moved that moves only under it.
    const hand = isHeldToMove(control) && !isAlive ? { ...said, isDown: false } : said;
    const thumb = live.thumbs.get(hand.id) ?? { isDown: false, downs: 0, x: null, y: null, isRefused: false };
    live.thumbs.set(hand.id, thumb);
    const isPressed = hand.downs > thumb.downs && isFresh;
    thumb.downs = Math.max(thumb.downs, hand.downs);
    if (!this.#mayWork(live.device, booked)) {
      this.#refuse(live, thumb, hand, "This pad may only look at that.");
      return;
    }
    if (isAct(control)) {
      if (isPressed) this.#press(live, control, hand.x);
      thumb.isDown = hand.isDown;
      return;
    }
    const other = this.#otherOn(control, live.device.id);
    if (other !== null) {
      this.#refuse(live, thumb, hand, `${other} has it.`);
      return;
    }
    thumb.isRefused = false;
    const wasDown = thumb.isDown;
    if (control.kind === "button") this.#push(live, control, hand, wasDown, isPressed);
    // Held or just put down, and once more where it left.
    else if (hand.isDown || ((wasDown || isPressed) && !isHeldToMove(control))) this.#move(live, control, thumb, hand);
    if (hand.isDown) {
      thumb.isDown = true;
      for (const id of sourcesOf(control)) this.#holders.set(id, live.device.id);
    } else this.#lift(live, hand.id, thumb, control);
  }

  /** What acts is done once for each press. */
  #press(live: LiveDevice, control: Act, x: number | null): void {
    const isOn = x !== 0;
    switch (control.kind) {
      case "pose":
        this.#act(live, { kind: "goToPose", poseId: control.poseId, moveMs: control.moveMs });
        return;
      case "routine":
        this.#act(live, isOn ? { kind: "play", routineId: control.routineId } : { kind: "stop" });
        return;
      case "grip":
        this.#act(live, { kind: isOn ? "hold" : "release", jointId: control.jointId });
        return;
      case "stop":
        this.#act(live, { kind: "stop" });
        return;
    }
  }

  #push(
    live: LiveDevice,
    control: Extract<Control, { kind: "button" }>,
    hand: Hand,
    wasDown: boolean,
    isPressed: boolean,
  ): void {
    const { sourceId, how } = control;
    if (how === "toggle") {
      if (isPressed) this.#give(live, sourceId, hand.x === 0 ? 0 : 1);
      return;
    }
    if (how === "press") {
      if (!isPressed) return;
      this.#give(live, sourceId, 1);
      this.#give(live, sourceId, 0);
      return;
    }
    // Where it leaves, it is lifted.
    if (hand.isDown && !wasDown) this.#give(live, sourceId, 1);
    else if (!hand.isDown && !wasDown && isPressed) {
      // It came and went between two messages.
      this.#give(live, sourceId, 1);
      this.#give(live, sourceId, 0);
    }
  }

  #move(live: LiveDevice, control: Control, thumb: Thumb, hand: Hand): void {
    const [across, up] = sourcesOf(control);
    if (across !== undefined && hand.x !== null && hand.x !== thumb.x) this.#give(live, across, hand.x);
    if (up !== undefined && hand.y !== null && hand.y !== thumb.y) this.#give(live, up, hand.y);
    thumb.x = hand.x;
    thumb.y = hand.y;
  }

  #give(live: LiveDevice, sourceId: string, share: number): void {
    const found = this.#ranges.get(sourceId);
    if (!found) return;
    const { low, high } = found.range;
    this.#feeders.set(sourceId, live.device.id);
    this.#act(live, { kind: "source", sourceId, value: low + share * (high - low), atMs: live.aliveMs });
  }

  /** A thumb leaves a control, or is not known to be there any more. What is on only under it is off, what moves only under it stops. */
  #lift(live: LiveDevice, controlId: string, thumb: Thumb, control: Control | null): void {
    if (!thumb.isDown) return;
    thumb.isDown = false;
    thumb.x = null;
    thumb.y = null;
    if (!control || isAct(control)) return;
    if (control.kind === "button" && control.how === "hold") this.#give(live, control.sourceId, 0);
    for (const sourceId of sourcesOf(control)) {
      if (this.#holders.get(sourceId) === live.device.id && !this.#hasOtherThumbOn(live, sourceId, controlId))
        this.#holders.delete(sourceId);
      if (isHeldToMove(control)) this.#act(live, { kind: "letGo", sourceId });
    }
  }

  /** The thumbs of a device are not known to be there any more: what moves only while they are there stops. */
  #stopHeld(live: LiveDevice): void {
    for (const [id, thumb] of live.thumbs) {
      const control = this.#booked.get(id)?.control;
      if (thumb.isDown && control && isHeldToMove(control)) this.#lift(live, id, thumb, control);
    }
  }

  #vanish(live: LiveDevice): void {
    for (const [id, thumb] of live.thumbs) this.#lift(live, id, thumb, this.#booked.get(id)?.control ?? null);
    if (live.isSilent) return;
    live.isSilent = true;
    const fed = this.#fedBy(live);
    for (const sourceId of fed) this.#act(live, { kind: "lost", sourceId, isLost: true });
    this.#doing.onVanished(
      live.device,
      fed.flatMap((id) => this.#ranges.get(id)?.label ?? []),
    );
  }

  #comeBack(live: LiveDevice): void {
    live.isSilent = false;
    for (const sourceId of this.#fedBy(live)) this.#act(live, { kind: "lost", sourceId, isLost: false });
  }

  #fedBy({ device }: LiveDevice): readonly string[] {
    return [...this.#feeders].filter(([, feeder]) => feeder === device.id).map(([sourceId]) => sourceId);
  }

  /** The name of another device whose thumb is on what a control moves; null where it is free. */
  #otherOn(control: Control, deviceId: string): string | null {
    for (const sourceId of sourcesOf(control)) {
      const holder = this.#holders.get(sourceId);
      if (holder !== undefined && holder !== deviceId) return this.#live.get(holder)?.device.name ?? null;
    }
    return null;
  }

  #hasOtherThumbOn(live: LiveDevice, sourceId: string, butId: string): boolean {
    for (const [id, { isDown }] of live.thumbs) {
      const control = this.#booked.get(id)?.control;
      if (id !== butId && isDown && control && sourcesOf(control).includes(sourceId)) return true;
    }
    return false;
  }

  #refuse(live: LiveDevice, thumb: Thumb, hand: Hand, sentence: string): void {
    if (hand.isDown && !thumb.isRefused) this.#doing.tell(live.device.id, sentence);
    thumb.isRefused = hand.isDown;
  }

  #act(live: LiveDevice, command: Command): void {
    this.#doing.act(command, live.device.id);
  }
}

type Act = Extract<Control, { kind: "pose" | "routine" | "grip" | "stop" }>;

const isAct = (control: Control): control is Act =>
  control.kind === "pose" || control.kind === "routine" || control.kind === "grip" || control.kind === "stop";
