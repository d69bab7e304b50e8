import { hexBytes } from "@core/bus";
import { head, shapeOf, snapshotLength } from "@core/engine";
import { type Routine, routineOfText } from "@core/project";
import { dequal } from "dequal";
import { Bench } from "./bench";
import { BenchClock } from "./benchClock";
import { Lateness } from "./lateness";
import type { FromWorker, LinkReport, ToWorker } from "./messages";
import { RemoteBench } from "./remote/remoteBench";
import { SnapshotPace } from "./snapshotPace";
import { openStream } from "./wires";

/**
 * The bench worker: hands the bench its clock, and passes messages. It runs apart from the page since a browser slows
 * the timers of a hidden page, and a real servo must not notice.
 */
const bench = new Bench({ openStream, nowMs: () => performance.now() });
bench.epochMs = performance.timeOrigin;
bench.onFault = (sentence) => post({ kind: "refused", sentence });
bench.onBus = (boardId, told) => post({ kind: "bus", boardId, told });
bench.onNews = (sentence, isBad) => post({ kind: "news", sentence, isBad });
bench.onTable = (report) => post({ kind: "table", report });
bench.onMemories = (memories) => post({ kind: "memories", memories });
const remote = new RemoteBench(bench, (told) => post({ kind: "remote", told }));
const clock = new BenchClock(bench, step);
const lateness = new Lateness();
const pace = new SnapshotPace();
const newline = 0x0a;
const buffersAtMost = 3;
const linesEveryMs = 200;
const recordingEveryMs = 4000;

let buffers: Float64Array<ArrayBuffer>[] = [];
let bufferLength = 0;
let isRunning = false;
let sentLinks: readonly LinkReport[] = [];
let isWatching = false;
let lines: Record<string, string> = {};
let linesSentMs = 0;
let surveySentMs = 0;
let recordingSentMs = 0;
let wasSurveying = false;
/** What was said once need not be said with every frame. */
const toldFaults = new Set<string>();
let routines = new Map<string, Routine>();

const post = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  switch (data.kind) {
    case "command": {
      if (data.command.kind === "source") remote.movedHere(data.command.sourceId);
      const done = bench.command(data.command, performance.now());
      if (!done.ok) post({ kind: "refused", sentence: done.problem });
      break;
    }
    case "buffer":
      if (data.snapshot.length === bufferLength) buffers.push(data.snapshot);
      break;
    case "project":
      try {
        layOut(data);
      } catch (error) {
        // What the person has just changed (a limit, say) is not in force: nothing may go on by what was before.
        allOf([releaseEverything], performance.now());
        const sentence = `This change could not be laid on the bench, and everything is released. Undo it, or load the page again. ${String(error)}`;
        post({ kind: "refused", sentence });
      }
      break;
    case "take":
      bench.giveTake(data.take);
      break;
    case "arm":
      bench.arm(data.routineIds);
      break;
    case "simulation":
      bench.simulation.ask(data.boardId, data.ask, performance.now());
      break;
    case "survey": {
      const begun = bench.survey(data.jointId, data.ask);
      if (!begun.ok) post({ kind: "refused", sentence: begun.problem });
      break;
    }
    case "endSurvey":
      bench.endSurvey();
      break;
    case "memories":
      bench.simulation.giveMemories(data.memories);
      break;
    case "bus":
      bench.askBus(data.boardId, data.ask);
      break;
    case "remote":
      remote.ask(data.ask);
      break;
    case "part":
      part();
      break;
    case "everyTick":
      pace.isEveryTick = data.isWanted;
      break;
    case "watchLines":
      isWatching = data.isWatching;
      lines = {};
      bench.onSent = isWatching ? keepLine : () => {};
      break;
  }
};

function layOut(data: Extract<ToWorker, { kind: "project" }>): void {
  for (const routine of data.routines.map(routineOfText)) routines.set(routine.id, routine);
  const whole = data.routineIds.flatMap((id) => routines.get(id) ?? []);
  routines = new Map(whole.map((routine) => [routine.id, routine]));
  const project = { ...data.project, routines: whole };
  bench.configure(project, data.revision);
  makeBuffers(snapshotLength(shapeOf(project)));
  if (!isRunning) clock.start();
  isRunning = true;
  allOf([() => remote.configure(project)], performance.now());
}

const releaseEverything = (nowMs: number) => void bench.command({ kind: "releaseAll" }, nowMs);

/** The release has left for every board before the page hears that it may go on. A take that was going on is handed over. */
function part(): void {
  allOf([releaseEverything, (nowMs) => bench.tick(nowMs), tellRecorded], performance.now());
  post({ kind: "parted" });
  self.close();
}

function makeBuffers(length: number): void {
  if (length === bufferLength) return;
  bufferLength = length;
  buffers = Array.from({ length: buffersAtMost }, () => new Float64Array(length).fill(Number.NaN));
}

function keepLine(boardId: string, bytes: Uint8Array): void {
  const isText = bytes.at(-1) === newline;
  lines[boardId] = isText ? String.fromCharCode(...bytes).trimEnd() : hexBytes(bytes);
}

/** What is done with every tick, in order: whatever a pad says, frames leave. */
const parts: readonly ((nowMs: number) => void)[] = [
  (nowMs) => lateness.add(nowMs - bench.nextTickMs),
  (nowMs) => remote.tick(nowMs),
  (nowMs) => {
    bench.tick(nowMs);
    // Not after a tick that failed: the page is to miss what does not go on.
    report(nowMs);
  },
  (nowMs) => remote.afterTick(nowMs, bench.hasSent),
  tellAsked,
  reportRecording,
  tellRecorded,
];

function step(nowMs: number): void {
  allOf(parts, nowMs);
}

/** Does one after the other. A fault of one of them is no fault of the others. */
function allOf(acts: readonly ((nowMs: number) => void)[], nowMs: number): void {
  for (const act of acts)
    try {
      act(nowMs);
    } catch (error) {
      tellFault(String(error));
    }
}

function tellFault(why: string): void {
  if (toldFaults.has(why)) return;
  toldFaults.add(why);
  post({ kind: "refused", sentence: `The bench met a fault of its own and goes on: ${why}` });
}

function tellAsked(): void {
  const asked = bench.takeAsked();
  for (const one of asked) if (one.kind === "cue") remote.sayCue(one.name);
  if (asked.length > 0) post({ kind: "asked", asked });
}

function tellRecorded(): void {
  const recorded = bench.takeRecorded();
  if (recorded) post({ kind: "recorded", recorded });
}

function report(nowMs: number): void {
  // No buffer means that the page has not looked yet; it will get the next snapshot instead.
  const snapshot = pace.isDue(nowMs, bench) ? buffers.pop() : undefined;
  if (snapshot) {
    bench.write(snapshot);
    snapshot[head.lateMs] = lateness.lastMs;
    snapshot[head.late99Ms] = lateness.late99Ms;
    post({ kind: "snapshot", snapshot }, [snapshot.buffer]);
  }
  const links = bench.linkReports;
  if (!dequal(links, sentLinks)) {
    sentLinks = links;
    post({ kind: "links", links });
  }
  reportSurvey(nowMs);
  if (isWatching && nowMs - linesSentMs > linesEveryMs) {
    linesSentMs = nowMs;
    post({ kind: "lines", lines, health: bench.healthAt(nowMs) });
  }
}

function reportRecording(nowMs: number): void {
  if (nowMs - recordingSentMs < recordingEveryMs) return;
  recordingSentMs = nowMs;
  const recorded = bench.recordedSoFar;
  if (recorded) post({ kind: "recording", recorded });
}

/** While an automatic run goes on, and once at its end. */
function reportSurvey(nowMs: number): void {
  const survey = bench.surveyNow;
  if (!survey) return;
  const isRunning = survey.report.phase !== "done" && survey.report.phase !== "ended";
  if (isRunning ? nowMs - surveySentMs < linesEveryMs : !wasSurveying) return;
  surveySentMs = nowMs;
  wasSurveying = isRunning;
  post({ kind: "survey", ...survey });
}
