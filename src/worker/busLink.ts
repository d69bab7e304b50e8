import {
  alarmsOf,
  type BusDevice,
  BusSession,
  changeSpeed,
  type DeviceNews,
  dissect,
  errorsIn,
  type GuardedDevice,
  guardPacket,
  isAnswered,
  layoutById,
  layoutsOf,
  letGoFirst,
  meet,
  type Procedure,
  rawBytes,
  reachOf,
  readAll,
  refusalOf,
  renumber,
  restore,
  scan,
  toldIn,
  troublesIn,
  type WireEvent,
  whoIsWhere,
  writeValue,
} from "@core/bus";
import type { DeviceMemories, DeviceMemory } from "@core/files";
import { type Board, byId, type Joint, type Layout, type Project, type SmartCard } from "@core/project";
import { framePeriodsUs } from "@core/signal";
import { SimBus, type SimServo } from "@core/sim";
import { boundsOf } from "./busBounds";
import type { BusAsk, BusOutcome, BusReport, BusRun, BusTold } from "./busMessages";
import { type Placed, placeDevices } from "./placeDevices";

const reportEveryMs = 100;
const alarmEveryMs = 500;
const eventsAtMost = 600;
/** No more is done at one go, however long the bench was held up. */
const stepsAtMost = 20_000;

/**
 * A link to a simulated bus: the host's session at one end, the wire with its devices at the other. Between two ticks of the bench both live through all
 * that happens on the wire in its own time, byte by byte.
 */
export class BusLink {
  readonly boardId: string;
  readonly #periodS: number;
  #project: Project;
  readonly session: BusSession;
  isPlugged = true;
  /** What the page is to be told. */
  onTold: (told: BusTold) => void = () => {};
  readonly #joints: readonly { readonly joint: Joint; readonly layout: Layout | null }[];
  readonly #bus: SimBus;
  readonly #placed: Placed[];
  readonly #onLimp: (jointId: string) => void;
  #isWatching = false;
  #events: WireEvent[] = [];
  #reportedMs = Number.NEGATIVE_INFINITY;
  #alarmedMs = 0;
  /** What was last said of each joint that is beyond its limits. */
  readonly #alarmed = new Map<string, string>();
  #watch: Extract<BusAsk, { kind: "watchRegisters" }>["watch"] = null;
  #watched: Map<number, number> | null = null;
  #watchedMs = 0;
  #nowUs = 0;

  constructor(
    board: Board,
    project: Project,
    servos: ReadonlyMap<string, SimServo>,
    memories: DeviceMemories,
    onSent: (boardId: string, bytes: Uint8Array) => void,
    onLimp: (jointId: string) => void,
  ) {
    this.boardId = board.id;
    this.#project = project;
    this.#onLimp = onLimp;
    this.#joints = project.joints
      .filter((joint) => joint.boardId === board.id)
      .map((joint) => ({
        joint,
        layout: layoutById(project, (byId(project.cards, joint.cardId) as SmartCard).layoutId),
      }));
    const periodS = Math.min(...framePeriodsUs(board)) / 1e6;
    this.#periodS = periodS;
    const devices = this.#joints.flatMap(({ joint, layout }): BusDevice[] => {
      if (!layout) return [];
      return [{ id: joint.channel, layout, ...boundsOf(joint, project, periodS) }];
    });
    const bitsPerS = board.encoding.kind === "bus" ? board.encoding.bitsPerS : 230_400;
    this.session = new BusSession(bitsPerS, board.channels, devices, layoutsOf(project), (bytes, speed, atUs) => {
      onSent(board.id, bytes);
      if (this.isPlugged) this.#bus.receive(bytes, speed, atUs);
    });
    this.session.onNews = (news) => this.#tellNews(news);
    this.#bus = new SimBus((bytes, atUs) => {
      if (this.isPlugged) this.session.receive(bytes, atUs);
    });
    this.#placed = placeDevices(board, project, servos, memories, () => this.#tellMemory());
    this.#plugIn();
  }

  get project(): Project {
    return this.#project;
  }

  /** Takes a changed document that wires the bus as before: bounds that were drawn in hold from the next goal on. */
  set project(project: Project) {
    this.#project = project;
    for (const joint of project.joints)
      if (joint.boardId === this.boardId) this.session.bound(joint.channel, boundsOf(joint, project, this.#periodS));
  }

  tick(nowMs: number): void {
    const untilUs = nowMs * 1000;
    for (let steps = 0; steps < stepsAtMost; steps += 1) {
      const nextUs = Math.min(this.session.nextWakeUs, this.#bus.nextEventUs);
      if (nextUs > untilUs) break;
      this.#nowUs = Math.max(this.#nowUs, nextUs);
      this.#bus.advance(this.#nowUs);
      this.session.wake(this.#nowUs);
    }
    this.#nowUs = Math.max(this.#nowUs, untilUs);
    this.session.wake(this.#nowUs);
    this.#watchOn(nowMs);
    this.#alarm(nowMs);
    this.#report(nowMs);
  }

  /** Lets the devices live on; also while the plug is pulled. */
  advance(nowMs: number, dtMs: number): void {
    this.#bus.step(nowMs, dtMs);
  }

  ask(ask: BusAsk, nowMs: number): void {
    const placed = "key" in ask ? this.#placed.find(({ key }) => key === ask.key) : undefined;
    switch (ask.kind) {
      case "watch":
        this.#isWatching = ask.isWatching;
        this.#events = [];
        this.session.wire.onEvent = ask.isWatching ? (event) => this.#keep(event) : null;
        break;
      case "run":
        this.#run(ask.runId, ask.run);
        break;
      case "endRun":
        this.session.endProcedure();
        break;
      case "watchRegisters":
        this.#watch = ask.watch;
        this.#watched = null;
        break;
      case "plugDevice":
        if (placed) placed.isPlugged = ask.isPlugged;
        this.#plugIn();
        this.#tellMemory();
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
    this.#reportedMs = Number.NEGATIVE_INFINITY;
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

  #plugIn(): void {
    this.#bus.devices = this.#placed.filter(({ isPlugged }) => isPlugged).map(({ device }) => device);
  }

  #tellMemory(): void {
    this.onTold({ kind: "memory", memories: this.memories });
  }

  #tellNews({ id, kind, error }: DeviceNews): void {
    const mine = this.#joints.find(({ joint }) => joint.channel === id);
    if (!mine?.layout) return;
    const { joint, layout } = mine;
    const why = errorsIn(layout, error);
    if (kind !== "silent" && kind !== "back") this.#onLimp(joint.id);
    const sentences = {
      silent: `${joint.label} (id ${id}) does not answer. Its plug, its supply, the speed of the bus, or another device with its id are the likely causes. It keeps its place as long as it has its supply.`,
      back: `${joint.label} (id ${id}) answers again; it is led on from where it stands.`,
      restarted: `${joint.label} (id ${id}) was started anew, most likely by a dip of its supply, and is limp. Hold it to go on: it begins where it stands.`,
      outside: `${joint.label} (id ${id}) stands outside the hard window of its card, and stays limp: to go there it would have to be driven outside it. Turn it inside by hand, or measure the window anew.`,
      turning: `${joint.label} (id ${id}) is set to turn on and on, and stays limp. Set its way of moving to places, on the Bus page, then hold it again.`,
      ends: `${joint.label} (id ${id}) has position limits of its own that do not hold the place where it stands, and stays limp: it would leap to them. Widen them on the Bus page, or turn it inside by hand.`,
      letGo: `${joint.label} (id ${id}) has let go by itself: ${why.join(", ") || "it does not say why"}. ${troublesIn(layout, error)[0]?.hint ?? ""}`,
    };
    this.onTold({ kind: "news", sentence: sentences[kind].trim(), isBad: kind !== "back" });
  }

  #run(runId: number, run: BusRun): void {
    const layout = "layoutId" in run ? layoutById(this.project, run.layoutId) : null;
    const finish = (outcome: BusOutcome) => this.onTold({ kind: "outcome", runId, outcome });
    if ("layoutId" in run && !layout) {
      finish({ kind: "refused", sentence: "This family is not known any more." });
      return;
    }
    const go: Go = (procedure, told) =>
      this.session.run(
        procedure,
        (progress) => this.onTold({ kind: "progress", runId, progress: progress as never }),
        (outcome) => finish(told(outcome)),
        () => finish({ kind: "refused", sentence: "It was ended before it was done." }),
      );
    const family = layout as Layout;
    const { bitsPerS } = this.session.wire;
    switch (run.kind) {
      case "scan":
        go(this.#safely(run.bitsPerS, scan({ ...run, layouts: this.#layouts(run.layoutIds) })), (found) => ({
          kind: "found",
          found,
        }));
        break;
      case "meet":
        go(meet(family, run.id, bitsPerS), (one) => ({ kind: "found", found: one ? [one] : [] }));
        break;
      case "renumber":
        go(renumber(family, run.from, run.to), (outcome) => ({ kind: "done", outcome }));
        break;
      case "changeSpeed": {
        const devices = run.devices.flatMap(({ layoutId, id }) =>
          this.#layouts([layoutId]).map((known) => ({ layout: known, id })),
        );
        const procedure = this.#safely([run.toBitsPerS], changeSpeed(devices, bitsPerS, run.toBitsPerS));
        let changed = { there: [] as readonly number[], onTheWay: null as number | null };
        this.session.run(
          procedure,
          (progress) => {
            changed = { there: progress.changed ?? [], onTheWay: progress.telling ?? null };
            this.onTold({ kind: "progress", runId, progress: progress as never });
          },
          (outcome) => finish({ kind: "done", outcome }),
          () => finish({ kind: "refused", sentence: whoIsWhere(devices, changed, bitsPerS, run.toBitsPerS) }),
        );
        break;
      }
      case "readAll":
        go(readAll(family, run.id), (values) => ({ kind: "values", values }));
        break;
      case "write":
        this.#write(run, family, go, finish);
        break;
      case "restore": {
        const refusal = this.#refusalOf(family, run.id, run.wanted);
        if (refusal) finish({ kind: "refused", sentence: `${refusal} Nothing was written.` });
        else go(restore(family, run.id, run.wanted, run.now), (outcome) => ({ kind: "done", outcome }));
        break;
      }
      case "packet":
        this.#sendPacket(run.bytes, family, go, finish);
        break;
    }
  }

  #layouts(ids: readonly string[]): Layout[] {
    return ids.flatMap((id) => layoutById(this.project, id) ?? []);
  }

  #write(
    { id, address, raw, throughTorque }: Extract<BusRun, { kind: "write" }>,
    layout: Layout,
    go: Go,
    finish: (outcome: BusOutcome) => void,
  ): void {
    const refusal = this.#refusalOf(layout, id, new Map([[address, raw]]));
    if (refusal) {
      finish({ kind: "refused", sentence: refusal });
      return;
    }
    go(writeValue(layout, id, address, raw, throughTorque), (outcome) => ({ kind: "written", outcome }));
  }

  /** What runs the wire at other speeds begins with all joints let go: nobody would hear a release meanwhile. */
  #safely<Progress, Outcome>(
    speeds: readonly number[],
    procedure: Procedure<Progress, Outcome>,
  ): Procedure<Progress, Outcome> {
    const staysHere = speeds.every((bitsPerS) => bitsPerS === this.session.wire.bitsPerS);
    return staysHere ? procedure : letGoFirst(this.#guarded(), procedure);
  }

  /** Why these registers of a device must not be written, because it is a joint's, or may be; null where they may. */
  #refusalOf(layout: Layout, id: number, wanted: ReadonlyMap<number, number>): string | null {
    const mine = this.#guarded().filter((joint) => joint.layout.id === layout.id);
    for (const joint of mine.filter((one) => one.id === id || id === layout.broadcastId))
      for (const [address, raw] of wanted) {
        const register = layout.registers.find((one) => one.address === address);
        // A number is given by the very tool that asks here.
        const isOwnTool = register?.role === "id" && id !== layout.broadcastId;
        const refusal =
          register &&
          !isOwnTool &&
          refusalOf(layout, reachOf(register).address, rawBytes(layout, register, raw), joint);
        if (refusal) return refusal.problem;
      }
    return null;
  }

  /** The joints on this bus, as far as what goes past the gate must mind them. */
  #guarded(): GuardedDevice[] {
    return this.#joints.flatMap(({ joint, layout }) =>
      layout
        ? [{ id: joint.channel, layout, label: joint.label, isHeld: this.session.phaseOf(joint.channel) !== "limp" }]
        : [],
    );
  }

  #sendPacket(bytes: Uint8Array, layout: Layout, go: Go, finish: (outcome: BusOutcome) => void): void {
    const guarded = guardPacket(bytes, layoutsOf(this.project), this.#guarded());
    if (guarded.ok) go(onePacket(layout, bytes), (outcome) => outcome);
    else finish({ kind: "refused", sentence: guarded.problem });
  }

  /** Tells once when a joint goes beyond what its card allows, and once more when it does so after it was well. */
  #alarm(nowMs: number): void {
    if (nowMs - this.#alarmedMs < alarmEveryMs) return;
    this.#alarmedMs = nowMs;
    for (const { joint } of this.#joints) {
      const card = this.project.cards.find(({ id }) => id === joint.cardId);
      const telemetry = this.session.telemetryOf(joint.channel);
      if (card?.kind !== "smart" || !telemetry || Number.isNaN(telemetry.atUs)) continue;
      const beyond = alarmsOf(card.alarms, telemetry);
      if (beyond.length === 0) this.#alarmed.delete(joint.id);
      else if (!this.#alarmed.has(joint.id)) {
        this.#alarmed.set(joint.id, beyond[0] as string);
        this.onTold({
          kind: "news",
          sentence: `${joint.label} is beyond its limits: ${beyond.join("; ")}.`,
          isBad: true,
        });
      }
    }
  }

  #watchOn(nowMs: number): void {
    const watch = this.#watch;
    if (!watch || this.session.isBusy || nowMs - this.#watchedMs < watch.everyMs) return;
    const layout = layoutById(this.project, watch.layoutId);
    if (!layout) return;
    this.#watchedMs = nowMs;
    const registers = layout.registers.filter(({ address }) => watch.addresses.includes(address));
    this.session.run(
      readAll({ ...layout, registers }, watch.id),
      () => {},
      (values) => {
        if (this.#watch === watch) this.#watched = new Map(values);
      },
    );
  }

  #keep(event: WireEvent): void {
    this.#events.push(event);
    if (this.#events.length > eventsAtMost) this.#events.shift();
  }

  #report(nowMs: number): void {
    if (!this.#isWatching || nowMs - this.#reportedMs < reportEveryMs) return;
    this.#reportedMs = nowMs;
    const report: BusReport = {
      boardId: this.boardId,
      atUs: this.#nowUs,
      devices: this.session.states,
      table: this.#placed.map(({ key, label, device, isPlugged }) => ({
        key,
        label,
        layoutId: device.layout.id,
        isPlugged,
        isHot: device.isHot,
      })),
      faults: this.#bus.faults,
      events: this.#events,
      watched: this.#watched,
      framesSent: this.session.framesSent,
      framesDropped: this.session.framesDropped,
    };
    this.#events = [];
    this.onTold({ kind: "report", report });
  }
}

type Go = <Progress, Outcome>(procedure: Procedure<Progress, Outcome>, told: (outcome: Outcome) => BusOutcome) => void;

const nobody = -1;

/** Sends a person's bytes once, and listens to whatever comes. */
function* onePacket(layout: Layout, bytes: Uint8Array): Procedure<never, BusOutcome> {
  const { packet } = dissect(layout, "request", bytes);
  const operation = layout.operations.find(({ code }) => code === packet?.operation);
  const told = packet && operation && toldIn(layout, operation, packet.parameters);
  // What is no packet gets no answer; how that sounds is what the person wants to hear.
  const isSilent = packet && operation && !isAnswered(operation, packet);
  const from = isSilent ? [] : (told?.each?.map(({ id }) => id) ?? [packet?.id ?? nobody]);
  const answer = yield {
    kind: "send",
    layout,
    bytes,
    from,
    replyBytes: null,
    listensOut: true,
    tries: 1,
    bitsPerS: null,
  };
  return {
    kind: "answered",
    replies: answer.replies.map((reply) => reply.bytes),
    noise: answer.noise,
    tookUs: (answer.replies[0]?.atUs ?? answer.sentUs) - answer.sentUs,
  };
}

/** Everything a bus link depends on; while it stays the same, a changed project leaves the link alone. */
export const busWiringOf = (board: Board, project: Project): string =>
  JSON.stringify([
    board,
    project.simulatedDevices.filter((device) => device.boardId === board.id),
    project.layouts,
    project.joints
      .filter((joint) => joint.boardId === board.id)
      .map((joint) => {
        const card = byId(project.cards, joint.cardId);
        return [
          joint.id,
          joint.channel,
          joint.cardId,
          card.kind === "smart" && [card.layoutId, card.nominal, card.travelDeg],
        ];
      }),
  ]);
