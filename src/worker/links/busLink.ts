import { type BusDevice, BusSession, type DeviceNews, gapUs, layoutById, layoutsOf } from "@core/bus";
import type { BoardOutput } from "@core/engine";
import { LinkHealth, type LinkHealthReport, type LinkState } from "@core/link";
import { type Board, byId, type Project, type SmartCard } from "@core/project";
import { framePeriodsUs } from "@core/signal";
import type { StreamLife } from "@core/wire";
import { boundsOf } from "./busBounds";
import type { BusAsk, BusTold } from "./busMessages";
import { BusAlarms, newsSentence } from "./busNews";
import { type BusJoint, BusRuns } from "./busRuns";
import { BusWatch } from "./busWatch";
import type { Link, PacketWire } from "./link";

/** No more is done at one go, however long the bench was held up. */
const stepsAtMost = 20_000;

/** What a link to a bus tells. */
export interface BusEars {
  /** Something that a person should know of, whatever they look at. */
  readonly onNews: (sentence: string, isBad: boolean) => void;
  /** What only somebody who watches the bus wants to hear. */
  readonly onTold: (told: BusTold) => void;
  /** On a real wire something is to be done sooner than it was. */
  readonly onStirred: () => void;
  /** A device is limp by itself: its joint is not held any more. */
  readonly onLimp: (jointId: string) => void;
}

/**
 * A link to a bus: the host's session on whatever wire. Between two ticks of the bench both ends live through all that happens on the wire in its own
 * time, byte by byte.
 */
export class BusLink implements Link {
  readonly boardId: string;
  readonly mustBeGreeted = false;
  readonly timesMet = 0;
  readonly isWaiting = false;
  readonly heard = null;
  readonly isOnItsWay = () => false;
  readonly strangeWords = null;
  readonly said = [];
  readonly greeting = null;
  readonly session: BusSession;
  readonly joints: readonly BusJoint[];
  readonly #periodS: number;
  readonly #wire: PacketWire;
  readonly #ears: BusEars;
  readonly #runs: BusRuns;
  readonly #watch: BusWatch;
  readonly #alarms = new BusAlarms();
  readonly #health = new LinkHealth();
  #project: Project;
  #nowUs = 0;

  constructor(board: Board, project: Project, wire: PacketWire, ears: BusEars) {
    this.boardId = board.id;
    this.#project = project;
    this.#wire = wire;
    this.#ears = ears;
    this.joints = project.joints
      .filter((joint) => joint.boardId === board.id)
      .map((joint) => ({
        joint,
        layout: layoutById(project, (byId(project.cards, joint.cardId) as SmartCard).layoutId),
      }));
    this.#periodS = Math.min(...framePeriodsUs(board)) / 1e6;
    const devices = this.joints.flatMap(({ joint, layout }): BusDevice[] =>
      layout ? [{ id: joint.channel, layout, ...boundsOf(joint, project, this.#periodS) }] : [],
    );
    const bitsPerS = board.encoding.kind === "bus" ? board.encoding.bitsPerS : 230_400;
    this.session = new BusSession(
      bitsPerS,
      board.channels,
      devices,
      layoutsOf(project),
      (bytes, speed, atUs) => wire.send(bytes, speed, atUs),
      !wire.isOwnTime,
    );
    this.session.wire.onAnswered = (tookUs, atUs) => {
      if (Number.isNaN(tookUs)) this.#health.lose(1, atUs / 1000);
      else this.#health.took(tookUs / 1000, atUs / 1000);
    };
    wire.lastWords = this.#lastWords;
    this.session.onNews = (news) => this.#tellNews(news);
    wire.onBytes = (bytes, atUs) => {
      this.session.receive(bytes, atUs);
      // What waits for the wire goes at once, not with the next frame.
      if (wire.isOwnTime) return;
      // By the time that the next packet is through an adapter, the wire has rested for longer than devices need to know one from the next.
      this.session.wake(atUs + gapUs);
      ears.onStirred();
    };
    this.#runs = new BusRuns(this, ears.onTold);
    this.#watch = new BusWatch(board.id, this.session);
  }

  get project(): Project {
    return this.#project;
  }

  get life(): StreamLife {
    return this.#wire.life;
  }

  /** A simulated wire has a time of its own, through which every tick lives. */
  get nextWakeMs(): number {
    return this.#wire.isOwnTime ? Number.POSITIVE_INFINITY : this.session.nextWakeUs / 1000;
  }

  wake(nowMs: number): void {
    this.#nowUs = Math.max(this.#nowUs, nowMs * 1000);
    this.session.wake(this.#nowUs);
  }

  health(nowMs: number): LinkHealthReport {
    return { ...this.#health.report(nowMs), heldBackMs: this.session.wire.heldBackUs / 1000 };
  }

  /** What lets everything go, for whoever outlives this page. */
  get #lastWords(): Uint8Array {
    return Uint8Array.from(this.session.releasePackets.flatMap(({ bytes }) => [...bytes]));
  }

  close(nowMs: number): void {
    if (!this.#wire.isOwnTime) this.releaseAll(nowMs);
    this.#wire.close();
  }

  get state(): LinkState {
    return this.session.state;
  }

  get wasLimp(): boolean {
    return this.session.wasLimp;
  }

  get positions(): Float64Array {
    return this.session.positions;
  }

  get currentsMa(): Float64Array {
    return this.session.currentsMa;
  }

  /** Takes a changed document that wires the bus as before: bounds that were drawn in hold from the next goal on. */
  follow(project: Project): void {
    this.#project = project;
    for (const joint of project.joints)
      if (joint.boardId === this.boardId) this.session.bound(joint.channel, boundsOf(joint, project, this.#periodS));
  }

  /** The limits of a bus are the bounds of its devices (see `follow`). */
  limit(): void {}

  tick(nowMs: number): void {
    const untilUs = nowMs * 1000;
    for (let steps = 0; steps < stepsAtMost; steps += 1) {
      const nextUs = Math.min(this.session.nextWakeUs, this.#wire.nextEventUs);
      if (nextUs > untilUs) break;
      this.#nowUs = Math.max(this.#nowUs, nextUs);
      this.#wire.arriveUntil(this.#nowUs);
      this.session.wake(this.#nowUs);
    }
    this.#nowUs = Math.max(this.#nowUs, untilUs);
    this.session.wake(this.#nowUs);
    this.#watch.readOn(nowMs, this.#project);
    for (const sentence of this.#alarms.look(nowMs, this.joints, this.#project, this.session))
      this.#ears.onNews(sentence, true);
    const report = this.#watch.report(nowMs, this.#nowUs);
    if (report) this.#ears.onTold({ kind: "report", report });
  }

  send({ channels, counts }: BoardOutput, nowMs: number): void {
    this.session.sendFrame(channels, counts, nowMs);
  }

  releaseAll(nowMs: number): void {
    this.session.releaseAll(nowMs);
  }

  ask(ask: BusAsk): void {
    switch (ask.kind) {
      case "watch":
        this.#watch.isWatching = ask.isWatching;
        break;
      case "run":
        this.#runs.run(ask.runId, ask.run);
        break;
      case "endRun":
        this.session.endProcedure();
        break;
      case "watchRegisters":
        this.#watch.registers = ask.watch;
        break;
    }
  }

  #tellNews(news: DeviceNews): void {
    const mine = this.joints.find(({ joint }) => joint.channel === news.id);
    if (!mine?.layout) return;
    if (news.kind !== "silent" && news.kind !== "back") this.#ears.onLimp(mine.joint.id);
    this.#ears.onNews(newsSentence(mine, news), news.kind !== "back");
  }
}
