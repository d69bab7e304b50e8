import { demoProject } from "@core/demo";
import { byId, type Project } from "@core/project";
import { type Device, type Hand, PadHands, usualRights } from "@core/remote";
import { seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import { benchOf } from "./benchInHand";

/**
 * Two pads over a network that is ill on purpose: a fifth of all messages is lost, the others are up to 400 ms on their way, some come twice, and they
 * overtake each other. What leaves for the boards is looked at frame by frame.
 */
const lossShare = 0.2;
const longestWayMs = 400;
const twiceShare = 0.15;
const sayEveryMs = 50;
const frameMs = 20;
const limitDegPerS = 90;
const devices: readonly Device[] = ["ada", "bob"].map((id) => ({ id, name: id, rights: usualRights }));

/** The greenhouse with a limit on the neck, and a lead without smoothing behind the slider that moves only while it is held. */
function rig(): Project {
  const demo = demoProject();
  return {
    ...demo,
    joints: demo.joints.map((joint) =>
      joint.axis.kind === "angle" && joint.id.startsWith("neck")
        ? { ...joint, axis: { ...joint.axis, speedLimitDegPerS: limitDegPerS } }
        : joint,
    ),
    leads: demo.leads.map((lead) =>
      lead.sourceId === "stick-y" ? { ...lead, shapers: lead.shapers.filter(({ kind }) => kind === "rangeMap") } : lead,
    ),
  };
}

/** A hand that wanders, rests, lifts and comes back. */
class Wanderer {
  readonly #random: () => number;
  readonly #controlId: string;
  x = 0.5;
  isDown = false;
  downs = 0;
  downAtMs = 0;
  seq = 0;

  constructor(random: () => number, controlId: string) {
    this.#random = random;
    this.#controlId = controlId;
  }

  goOn(nowMs: number): void {
    if (this.#random() < 0.06) {
      this.isDown = !this.isDown;
      if (this.isDown) {
        this.downs += 1;
        this.downAtMs = nowMs;
      }
    }
    if (this.isDown && this.#random() < 0.7) this.x = this.#random();
  }

  get hand(): Hand {
    const { x, isDown, downs, downAtMs } = this;
    return { id: this.#controlId, x, y: null, isDown, downs, downAtMs };
  }
}

interface OnItsWay {
  readonly atMs: number;
  readonly sentMs: number;
  readonly deviceId: string;
  readonly seq: number;
  readonly hand: Hand;
}

test.each([1, 2, 3, 4, 5, 6, 7, 8])(
  "an ill network, %i: nothing runs backwards, jumps, or moves behind the hand",
  (seed) => {
    const random = seededRandom(seed);
    const project = rig();
    const held = benchOf(project);
    held.run(100);
    held.command({ kind: "holdAll" });
    held.run(2000);
    let nowMs = 2100;
    const asked: { deviceId: string; atMs: number; value: number }[] = [];
    const hands = new PadHands({
      act(command, deviceId) {
        if (command.kind === "source") asked.push({ deviceId, atMs: command.atMs ?? Number.NaN, value: command.value });
        held.command(command);
      },
      tell: () => {},
      onVanished: () => {},
    });
    hands.configure(project);
    hands.setDevices(devices);
    const wanderers = { ada: new Wanderer(random, "pad-turn"), bob: new Wanderer(random, "pad-nod") };
    const way: OnItsWay[] = [];
    /** When bob's thumb was last heard to be there, by when that left him. */
    let aliveMs = Number.NEGATIVE_INFINITY;
    let targets = { "neck-turn": held.read("neck-turn", "target"), "neck-nod": held.read("neck-nod", "target") };
    let moves = 0;
    for (const endMs = nowMs + 20_000; nowMs < endMs; nowMs += frameMs) {
      const isLeaving = nowMs > endMs - 4000;
      if (nowMs % sayEveryMs < frameMs)
        for (const [deviceId, one] of Object.entries(wanderers)) {
          if (isLeaving) one.isDown = false;
          else one.goOn(nowMs);
          one.seq += 1;
          if (random() < lossShare) continue;
          const message = { sentMs: nowMs, deviceId, seq: one.seq, hand: one.hand };
          way.push({ ...message, atMs: nowMs + random() * longestWayMs });
          if (random() < twiceShare) way.push({ ...message, atMs: nowMs + random() * longestWayMs });
        }
      for (const message of way.splice(0)) {
        if (message.atMs > nowMs) {
          way.push(message);
          continue;
        }
        const { deviceId, seq, hand, sentMs } = message;
        const heard = hands.hear(deviceId, { run: 1, seq, hands: [hand] }, sentMs, [hand.downAtMs], nowMs);
        if (heard === "taken" && deviceId === "bob" && hand.isDown) aliveMs = Math.max(aliveMs, sentMs);
      }
      hands.tick(nowMs);
      held.run(frameMs);
      for (const id of ["neck-turn", "neck-nod"] as const) {
        const target = held.read(id, "target");
        const stepDeg = Math.abs(target - targets[id]);
        expect(stepDeg).toBeLessThanOrEqual((limitDegPerS * frameMs) / 1000 + 1e-9);
        if (stepDeg > 0) moves += 1;
        // What moves only while it is held moves in no frame that is further than 300 ms from the last that is known of the thumb.
        if (id === "neck-nod" && stepDeg > 0) expect(nowMs + frameMs - aliveMs).toBeLessThanOrEqual(300);
        targets = { ...targets, [id]: target };
      }
    }
    expect(moves).toBeGreaterThan(50);
    for (const { id } of devices) {
      const times = asked.filter(({ deviceId }) => deviceId === id).map(({ atMs }) => atMs);
      expect(times).toEqual(times.toSorted((a, b) => a - b));
    }
    // Both are gone for seconds: the slider that stays has got where it was left, as far as any message told of it.
    const last = asked.findLast(({ deviceId }) => deviceId === "ada");
    const lead = byId(project.leads, "lead-knob-turn");
    const [map] = lead.shapers;
    if (last && map?.kind === "rangeMap")
      expect(held.read("neck-turn", "target")).toBeCloseTo(
        map.to.low + (last.value / 1000) * (map.to.high - map.to.low),
        6,
      );
  },
);
