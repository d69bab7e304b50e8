import simplify from "simplify-js";
import { demoProject } from "../src/core/demo";
import { examine } from "../src/core/feasible";
import { emptyRoutine, type Project } from "../src/core/project";
import { readyScore, type Score, sampleTrack } from "../src/core/routine";
import { freshMove } from "../src/core/steps";
import { largestError, reduceToCorners } from "../src/core/take";

const joints = 32;
const frameMs = 20;
const tenMinutesMs = 600_000;

/** 32 joints that go from pose to pose for so long, every second step staggered, on curves of all kinds. */
export function crowdScore(lengthMs: number): { project: Project; score: Score } {
  const demo = demoProject();
  const [first] = demo.joints;
  const [card] = demo.cards;
  const boards = demo.boards.map((board) => ({ ...board, channels: Math.max(16, board.channels) }));
  if (!first || !card) throw new Error("The demo has no joints.");
  const ids = Array.from({ length: joints }, (_, at) => `joint-${at}`);
  const project: Project = {
    ...demo,
    cards: ids.map((id) => ({ ...card, id: `card-${id}` })),
    boards: [...boards, ...boards.slice(0, 1).map((board) => ({ ...board, id: "second", label: "Second" }))],
    joints: ids.map((id, at) => ({
      ...first,
      id,
      label: `Joint ${at + 1}`,
      cardId: `card-${id}`,
      boardId: at < 16 ? first.boardId : "second",
      channel: at % 16,
    })),
    poses: Array.from({ length: 12 }, (_, at) => ({
      id: `pose-${at}`,
      name: `Pose ${at}`,
      group: "",
      targets: Object.fromEntries(ids.map((id, place) => [id, 60 * Math.sin(at * 1.7 + place)])),
    })),
    simulated: [],
    rigs: [{ id: first.rigId, label: "Crowd", mirror: [] }],
    conditions: [],
    supplies: [],
    runs: [],
    figures: [],
    things: [],
    pads: [],
    leads: [],
  };
  const easings = ["leastJerk", "even", "both", "out"] as const;
  const routine = {
    ...emptyRoutine("crowd", "Crowd"),
    steps: Array.from({ length: lengthMs / 1000 }, (_, at) => ({
      ...freshMove(`step-${at}`, `pose-${at % 12}`),
      pace: { kind: "time" as const, moveMs: 800 },
      easing: { kind: easings[at % 4] as "even" },
      staggerMs: at % 2 ? 2 : 0,
      holdMs: at % 2 ? 138 : 200,
    })),
  };
  const ready = readyScore(project, routine, new Map());
  if (!ready.ok) throw new Error(ready.problem);
  return { project, score: ready.value };
}

const timed = <Made>(make: () => Made): { readonly made: Made; readonly ms: number } => {
  make();
  const startMs = performance.now();
  const made = make();
  return { made, ms: performance.now() - startMs };
};

/** What every joint is asked for, every 20 ms for ten minutes; and the whole check of an hour. */
export function sampling(): string[] {
  const { score } = crowdScore(tenMinutesMs);
  const out = new Float32Array(tenMinutesMs / frameMs);
  const { ms } = timed(() => {
    for (const [at, track] of score.tracks.entries()) sampleTrack(track, score.starts[at] as number, 0, frameMs, out);
  });
  const hour = crowdScore(3_600_000);
  const checked = timed(() => examine(hour.project, hour.score));
  return [
    `sampling ${joints} joints for 10 min at 50 Hz: ${ms.toFixed(0)} ms (aim: under 150), ${((ms * 1e6) / (joints * out.length)).toFixed(0)} ns a sample`,
    `the whole check of an hour of ${joints} joints, with ghosts: ${(checked.ms / 1000).toFixed(1)} s, in a worker`,
  ];
}

/** A hand on 32 joints for ten minutes: slow sways, faster ones, rests, and the trembling of a sensor. */
function handTake(): Float32Array[] {
  return Array.from({ length: joints }, (_, joint) =>
    Float32Array.from({ length: tenMinutesMs / frameMs }, (_, frame) => {
      const s = (frame * frameMs) / 1000;
      const isResting = Math.sin(s / 7 + joint) < -0.6;
      const sway = isResting ? 0 : 30 * Math.sin(s * (0.5 + joint / 40)) + 8 * Math.sin(s * 2.3 + joint);
      return sway + 0.15 * Math.sin(s * 61 + joint * 3) + 0.1 * Math.sin(s * 97);
    }),
  );
}

/** Our own reduction against a well-known line simplification (Ramer, Douglas and Peucker), at the same largest error. */
export function reduction(): string[] {
  const largest = 0.5;
  const channels = handTake();
  const ours = timed(() => channels.map((channel) => reduceToCorners(channel, frameMs, largest)));
  const ourKeys = ours.made.reduce((sum, corners) => sum + corners.length, 0);
  const ourError = Math.max(
    ...ours.made.map((corners, at) => largestError(channels[at] as Float32Array, frameMs, corners)),
  );
  // Time is stretched so far that its distance from a line is the error in degrees.
  const stretch = 1e5;
  const theirs = timed(() =>
    channels.map((channel) =>
      simplify(
        Array.from(channel, (y, frame) => ({ x: frame * frameMs * stretch, y })),
        largest,
        true,
      ),
    ),
  );
  const theirKeys = theirs.made.reduce((sum, points) => sum + points.length, 0);
  const theirError = Math.max(
    ...theirs.made.map((points, at) =>
      largestError(
        channels[at] as Float32Array,
        frameMs,
        points.map(({ x, y }) => ({ atMs: x / stretch, target: y })),
      ),
    ),
  );
  const samples = channels.length * (channels[0]?.length ?? 0);
  return [
    `ours: ${ourKeys} keys of ${samples} samples in ${ours.ms.toFixed(0)} ms, off by ${ourError.toFixed(3)}° at most (asked: ${largest}°)`,
    `simplify-js: ${theirKeys} keys in ${theirs.ms.toFixed(0)} ms, off by ${theirError.toFixed(3)}° at most`,
    `that is ${((100 * ourKeys) / theirKeys).toFixed(0)} % of the keys in ${((100 * ours.ms) / theirs.ms).toFixed(0)} % of the time`,
  ];
}
