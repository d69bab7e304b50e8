import { demoProject } from "../src/core/demo";
import { emptyRoutine, type Project } from "../src/core/project";
import { freshMove } from "../src/core/steps";
import { Bench } from "../src/worker/bench";
import { medianUs } from "./timing";

const joints = 32;
const frameUs = 20_000;

/** The demo's neck 32 times over, on two boards of 16 channels, all moved by a routine. */
function crowd(): Project {
  const demo = demoProject();
  const [joint] = demo.joints;
  const [card] = demo.cards;
  const [truth] = demo.simulated;
  const [board] = demo.boards;
  if (!joint || !card || !truth || !board) throw new Error("The demo has no joint.");
  const many = Array.from({ length: joints }, (_, at) => at);
  const ids = many.map((at) => `joint-${at}`);
  return {
    ...demo,
    boards: [board, { ...board, id: "second" }],
    cards: many.map((at) => ({ ...card, id: `card-${at}` })),
    simulated: many.map((at) => ({ ...truth, cardId: `card-${at}` })),
    joints: many.map((at) => ({
      ...joint,
      id: `joint-${at}`,
      cardId: `card-${at}`,
      boardId: at < 16 ? board.id : "second",
      channel: at % 16,
    })),
    sources: [],
    leads: [],
    poses: [-60, 60].map((deg) => ({
      id: `pose${deg}`,
      name: `${deg}°`,
      group: "",
      targets: Object.fromEntries(ids.map((id) => [id, deg])),
    })),
    routines: [
      {
        ...emptyRoutine("routine", "To and fro"),
        repeat: { kind: "forever" },
        steps: [-60, 60].map((deg) => ({
          ...freshMove(`step${deg}`, `pose${deg}`),
          pace: { kind: "time" as const, moveMs: 900 },
          holdMs: 100,
        })),
      },
    ],
  };
}

const leads = 64;

/** The same crowd, moved by generators: two leads for every joint, each of six shapers. */
function followed(): Project {
  const project = crowd();
  const hundred = { low: 0, high: 100 };
  const many = Array.from({ length: leads }, (_, at) => at);
  return {
    ...project,
    routines: [],
    sources: many.map((at) => ({
      id: `wave-${at}`,
      label: `Wave ${at}`,
      range: hundred,
      origin: { kind: "wave" as const, shape: "sine" as const, rateHz: 0.2 + at / 50, depth: 1, phaseDeg: at },
      isMuted: false,
      ifLost: { kind: "hold" as const },
    })),
    leads: many.map((at) => ({
      id: `lead-${at}`,
      sourceId: `wave-${at}`,
      target: { kind: "joint" as const, jointId: `joint-${at % joints}` },
      isMuted: false,
      shapers: [
        { kind: "deadband" as const, centre: 50, halfWidth: 2, reach: 50 },
        { kind: "curve" as const, range: hundred, shape: { kind: "expo" as const, amount: 0.4 } },
        { kind: "smooth" as const, lagMs: 60, quickness: 6, span: 100 },
        {
          kind: "combine" as const,
          sourceId: `wave-${(at + 1) % leads}`,
          to: { low: -5, high: 5 },
          how: "sum" as const,
          share: 0.5,
        },
        { kind: "rate" as const, perS: 300 },
        { kind: "rangeMap" as const, from: hundred, to: { low: -70, high: 70 } },
      ],
    })),
  };
}

/** One tick with 32 joints that follow 64 leads of six shapers each. */
export function leadsTick(): string[] {
  const bench = new Bench();
  bench.configure(followed(), 1);
  let nowMs = 0;
  const tick = () => {
    nowMs += 20;
    bench.tick(nowMs);
  };
  tick();
  bench.command({ kind: "holdAll" }, nowMs);
  const tickUs = medianUs(5000, 9, tick);
  return [
    `${tickUs.toFixed(1)} µs a tick, ${((100 * tickUs) / frameUs).toFixed(3)} % of a 20 ms frame (aim: under 2 %)`,
  ];
}

export function engineTick(): string[] {
  const bench = new Bench();
  bench.configure(crowd(), 1);
  let nowMs = 0;
  const tick = () => {
    nowMs += 20;
    bench.tick(nowMs);
  };
  tick();
  bench.command({ kind: "holdAll" }, nowMs);
  bench.command({ kind: "play", routineId: "routine" }, nowMs);
  const tickUs = medianUs(5000, 9, tick);
  return [
    `${tickUs.toFixed(1)} µs a tick, ${((100 * tickUs) / frameUs).toFixed(3)} % of a 20 ms frame (aim: under 1 %)`,
    "with player, gate, both links coded, the lines decoded by the simulated boards, and 32 simulated servos",
  ];
}
