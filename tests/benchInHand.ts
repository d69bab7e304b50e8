import { dissect, heron, kestrel, rawIn, registerFor, toldIn } from "@core/bus";
import { demoProject } from "@core/demo";
import { type Command, jointOf, shapeOf, snapshotLength } from "@core/engine";
import { LineReader, readHostLine } from "@core/link";
import { byId, type Project } from "@core/project";
import { signalMakerOf } from "@core/signal";
import { Bench } from "@worker/bench";
import type { Outside } from "@worker/links/linkMaker";

/** The demo on a bench with a clock that a test turns by hand, and every line that left it. */
export function benchOf(project: Project = demoProject(), outside: Outside | null = null) {
  const bench = new Bench(outside);
  const sent: { boardId: string; atMs: number; body: string }[] = [];
  const readers = new Map(project.boards.map((board) => [board.id, new LineReader()]));
  /** The goals that were put on a bus, and when everything on it was let go. */
  const goals: { atMs: number; id: number; tick: number }[] = [];
  let nowMs = 0;
  bench.onSent = (boardId, bytes) => {
    if (byId(project.boards, boardId).encoding.kind === "bus") {
      const packet = dissectAny(bytes);
      for (const { id, tick } of packet.goals) goals.push({ atMs: nowMs, id, tick });
      sent.push({ boardId, atMs: nowMs, body: packet.isRelease ? "R" : "packet" });
      return;
    }
    readers
      .get(boardId)
      ?.read(bytes, (line) => sent.push({ boardId, atMs: nowMs, body: line.kind === "body" ? line.body : "bad" }));
  };
  bench.configure(project, 1);
  const snapshot = new Float64Array(snapshotLength(shapeOf(project)));
  return {
    bench,
    sent,
    command: (command: Command) => bench.command(command, nowMs),
    configure: (changed: Project) => bench.configure(changed, 2),
    run(ms: number, stepMs = 20) {
      for (const endMs = nowMs + ms; nowMs < endMs; ) {
        nowMs += stepMs;
        bench.tick(nowMs);
      }
    },
    read(jointId: string, field: Parameters<typeof jointOf>[2]) {
      bench.write(snapshot);
      return jointOf(
        snapshot,
        project.joints.findIndex((joint) => joint.id === jointId),
        field,
      );
    },
    /** The set points that the last frame for this board names, by channel, worked out from its very bytes. */
    lastFrame(boardId: string) {
      if (byId(project.boards, boardId).encoding.kind === "bus")
        return new Map(goals.filter((goal) => goal.atMs > nowMs - 40).map(({ id, tick }) => [id, tick]));
      const line = sent.findLast((one) => one.boardId === boardId && one.body.startsWith("S"));
      const read = readHostLine(line?.body ?? "");
      const maker = signalMakerOf(byId(project.boards, boardId));
      return new Map(
        read?.kind === "set" ? read.channels.map(([channel, count]) => [channel, maker.toSetPoint(count)]) : [],
      );
    },
  };
}

/** What a packet of either family says of goals, and whether it lets everything go. */
function dissectAny(bytes: Uint8Array) {
  const layout = dissect(kestrel, "request", bytes).packet ? kestrel : heron;
  const { packet } = dissect(layout, "request", bytes);
  const operation = layout.operations.find(({ code }) => code === packet?.operation);
  const told = packet && operation && toldIn(layout, operation, packet.parameters);
  const goal = registerFor(layout, "goalPosition");
  const isGoal = told?.address === goal?.address && operation?.kind !== "read";
  const each = told?.each ?? [{ id: packet?.id ?? -1, data: told?.data }];
  return {
    isRelease: packet?.id === layout.broadcastId && told?.address === registerFor(layout, "torque")?.address,
    goals: isGoal && goal ? each.map(({ id, data }) => ({ id, tick: rawIn(layout, goal, data ?? []) })) : [],
  };
}
