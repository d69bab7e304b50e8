import { demoProject } from "../src/core/demo";
import { courseOf, drawingOf, review } from "../src/core/power";
import { emptyRoutine, type Project, type Run, servoCable, usualCable } from "../src/core/project";
import { readyScore } from "../src/core/routine";
import { freshMove } from "../src/core/steps";

/** A bench of 32 servos on four rails of one supply, with an hour of moves. */
function hourOf32(): Project {
  const demo = demoProject();
  const [model] = demo.joints;
  const [card] = demo.cards;
  const board = demo.boards.find(({ id }) => id === "fern");
  if (!model || !card || !board) throw new Error("The demo has changed.");
  const numbers = Array.from({ length: 32 }, (_, at) => at);
  const rails = [0, 1, 2, 3].map((at) => ({ id: `rail-${at}`, label: `Rail ${at}` }));
  const runs: Run[] = [
    ...rails.map(
      ({ id }): Run => ({
        ...usualCable,
        id: `to-${id}`,
        areaMm2: 4,
        from: { kind: "supply", id: "s" },
        to: { kind: "rail", id },
      }),
    ),
    ...numbers.map(
      (at): Run => ({
        ...servoCable,
        id: `to-${at}`,
        from: { kind: "rail", id: `rail-${at % 4}` },
        to: { kind: "joint", id: `j${at}` },
      }),
    ),
  ];
  const poses = [0, 1, 2].map((pose) => ({
    id: `p${pose}`,
    name: `P${pose}`,
    group: "",
    targets: Object.fromEntries(numbers.map((at) => [`j${at}`, ((at * 17 + pose * 31) % 80) - 40])),
  }));
  const steps = Array.from({ length: 1800 }, (_, at) => ({
    ...freshMove(`m${at}`, `p${at % 3}`),
    pace: { kind: "time" as const, moveMs: 1200 },
    holdMs: 800,
  }));
  return {
    ...demo,
    boards: [{ ...board, channels: 32 }],
    cards: numbers.map((at) => ({ ...card, id: `card-${at}` })),
    joints: numbers.map((at) => ({
      ...model,
      id: `j${at}`,
      label: `Servo ${at}`,
      cardId: `card-${at}`,
      boardId: board.id,
      channel: at,
    })),
    figures: [],
    conditions: [],
    leads: [],
    supplies: [{ id: "s", label: "Supply", limitMa: 60_000, gives: { kind: "adapter", volts: 5 } }],
    rails,
    runs,
    poses,
    routines: [{ ...emptyRoutine("hour", "An hour"), steps }],
  };
}

export function powerSpeed(): readonly string[] {
  const project = hourOf32();
  const [routine] = project.routines;
  const score = routine && readyScore(project, routine, new Map());
  if (!score?.ok) return ["The hour could not be laid out."];
  const timed = (run: () => unknown) => {
    const times = Array.from({ length: 5 }, () => {
      const begun = performance.now();
      run();
      return performance.now() - begun;
    });
    return times.sort((a, b) => a - b)[2] as number;
  };
  const minutes = score.value.lengthMs / 60_000;
  return [
    `an hour's routine of 32 joints (${minutes.toFixed(0)} min): currents and voltages ${timed(() => courseOf(project, score.value)).toFixed(0)} ms (aim 1000)`,
    `review of 32 joints ${timed(() => review(project)).toFixed(1)} ms; their drawing laid out ${timed(() => drawingOf(project)).toFixed(1)} ms (aim 100)`,
  ];
}
