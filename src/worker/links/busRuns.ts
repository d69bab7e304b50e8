import {
  type BusSession,
  changeSpeed,
  dissect,
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
  whoIsWhere,
  writeValue,
} from "@core/bus";
import type { Joint, Layout, Project } from "@core/project";
import type { BusOutcome, BusRun, BusTold } from "./busMessages";

/** A joint on a bus, and the family of its device; null for one that nobody knows. */
export interface BusJoint {
  readonly joint: Joint;
  readonly layout: Layout | null;
}

/** The bus that runs are made on. */
export interface RunsOn {
  readonly project: Project;
  readonly session: BusSession;
  readonly joints: readonly BusJoint[];
}

/** What a person has done on a bus that takes many exchanges: each is run as a procedure, or refused in words where it would go past the gate. */
export class BusRuns {
  readonly #bus: RunsOn;
  readonly #tell: (told: BusTold) => void;

  constructor(bus: RunsOn, tell: (told: BusTold) => void) {
    this.#bus = bus;
    this.#tell = tell;
  }

  run(runId: number, run: BusRun): void {
    const layout = "layoutId" in run ? layoutById(this.#bus.project, run.layoutId) : null;
    const finish = (outcome: BusOutcome) => this.#tell({ kind: "outcome", runId, outcome });
    if ("layoutId" in run && !layout) {
      finish({ kind: "refused", sentence: "This family is not known any more." });
      return;
    }
    const go: Go = (procedure, told) =>
      this.#bus.session.run(
        procedure,
        (progress) => this.#tell({ kind: "progress", runId, progress: progress as never }),
        (outcome) => finish(told(outcome)),
        () => finish({ kind: "refused", sentence: "It was ended before it was done." }),
      );
    const family = layout as Layout;
    const { bitsPerS } = this.#bus.session.wire;
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
        this.#bus.session.run(
          procedure,
          (progress) => {
            changed = { there: progress.changed ?? [], onTheWay: progress.telling ?? null };
            this.#tell({ kind: "progress", runId, progress: progress as never });
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
    return ids.flatMap((id) => layoutById(this.#bus.project, id) ?? []);
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
    const staysHere = speeds.every((bitsPerS) => bitsPerS === this.#bus.session.wire.bitsPerS);
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
    return this.#bus.joints.flatMap(({ joint, layout }) =>
      layout
        ? [
            {
              id: joint.channel,
              layout,
              label: joint.label,
              isHeld: this.#bus.session.phaseOf(joint.channel) !== "limp",
            },
          ]
        : [],
    );
  }

  #sendPacket(bytes: Uint8Array, layout: Layout, go: Go, finish: (outcome: BusOutcome) => void): void {
    const guarded = guardPacket(bytes, layoutsOf(this.#bus.project), this.#guarded());
    if (guarded.ok) go(onePacket(layout, bytes), (outcome) => outcome);
    else finish({ kind: "refused", sentence: guarded.problem });
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
