import { demoProject, type Project } from "../src/core/project";
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
    leads: [],
    poses: [-60, 60].map((deg) => ({
      id: `pose${deg}`,
      name: `${deg}°`,
      targets: Object.fromEntries(ids.map((id) => [id, deg])),
    })),
    routines: [
      {
        id: "routine",
        name: "To and fro",
        loop: true,
        steps: [-60, 60].map((deg) => ({
          kind: "move" as const,
          id: `step${deg}`,
          poseId: `pose${deg}`,
          moveMs: 900,
          holdMs: 100,
          easing: "soft" as const,
        })),
      },
    ],
  };
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
