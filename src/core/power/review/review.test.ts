import {
  applyEdit,
  type BoardPower,
  type Project,
  type Run,
  type Supply,
  setWiring,
  usualBoardPower,
  usualCable,
  usualCardPower,
} from "@core/project";
import { expect, test } from "vitest";
import { adapter, bench, demo, joint, plainCard, rail, supply, wire } from "../fixtures";
import { type Found, type RuleKind, review, rules } from ".";

const board = { kind: "board", id: "fern" } as const;
const feed = (id: string, from: Run["from"], to: Run["to"], change: Partial<Run> = {}): Run => ({
  ...usualCable,
  id,
  from,
  to,
  lengthMm: 200,
  ...change,
});
const battery = (cells: number): Supply => ({
  id: "s",
  label: "Pack",
  limitMa: 20_000,
  gives: { kind: "battery", chemistry: "lithium", cells, capacityMah: 2000, cellMilliohm: 10 },
});
const regulator = (change: object = {}): Supply => ({
  id: "reg",
  label: "Reg",
  limitMa: 5000,
  gives: { kind: "regulator", works: "switching", volts: 5, headroomVolts: 1, efficiency: 0.9, ...change },
});

/** Two plain servos and their board on one supply, with nothing wrong; and what may be changed of it. */
function sound({
  from = adapter("s", 5, 3000),
  more = [],
  toServo = {},
  toBoard = {},
  change = {},
  boardPower = {},
  extra = [],
}: {
  from?: Supply;
  more?: readonly Supply[];
  toServo?: Partial<Run>;
  toBoard?: Partial<Run>;
  change?: Partial<Project>;
  boardPower?: Partial<BoardPower>;
  extra?: readonly Run[];
} = {}): Project {
  return bench(
    2,
    {
      supplies: [from, ...more],
      rails: [{ id: "r", label: "Rail" }],
      runs: [
        feed("in", supply(from.id), rail("r")),
        feed("fern", rail("r"), board, toBoard),
        feed("a", rail("r"), joint("j0"), { areaMm2: 0.33, connector: "servoPlug", ...toServo }),
        feed("b", rail("r"), joint("j1"), { areaMm2: 0.33, connector: "servoPlug" }),
        ...extra,
      ],
    },
    {
      boards: demo.boards
        .filter(({ id }) => id === "fern")
        .map((one) => ({ ...one, power: { ...usualBoardPower, ...boardPower } })),
      ...change,
    },
  );
}

const withRuns = (project: Project, change: (run: Run) => Run | null): Project => ({
  ...project,
  runs: project.runs.flatMap((run) => change(run) ?? []),
});
const cardsWith = (change: object): Partial<Project> => ({
  cards: ["card-0", "card-1"].map((id) => ({ ...plainCard(id), ...change })),
});
const onBus = (busMm: number, hasBusEnd: boolean): Project => ({
  ...demo,
  boards: demo.boards.map((one) =>
    one.encoding.kind === "bus" ? { ...one, power: { ...usualBoardPower, busMm, hasBusEnd } } : one,
  ),
});

/** For each rule what trips it, and what is so near that it only just does not. */
const cases: Readonly<Record<RuleKind, readonly (readonly [what: string, trips: Project, near: Project])[]>> = {
  voltage: [
    ["7 V for servos of up to 6", sound({ from: adapter("s", 7, 3000) }), sound({ from: adapter("s", 6, 3000) })],
    ["4.7 V for servos from 4.8", sound({ from: adapter("s", 4.75, 3000) }), sound({ from: adapter("s", 4.85, 3000) })],
    ["two lithium cells, full", sound({ from: battery(2) }), sound({ from: adapter("s", 5.9, 3000) })],
  ],
  weak: [
    ["2 A for two that start", sound({ from: adapter("s", 5, 1900) }), sound({ from: adapter("s", 5, 2100) })],
    ["0.3 A for two that turn", sound({ from: adapter("s", 5, 400) }), sound({ from: adapter("s", 5, 2100) })],
  ],
  noMotorSupply: [
    [
      "a computer's port",
      sound({ from: { id: "s", label: "Port", limitMa: 3000, gives: { kind: "port" } } }),
      sound({ from: adapter("s", 5, 3000) }),
    ],
    [
      "a pin of the board",
      withRuns(
        sound({ more: [{ id: "pin", label: "Pin", limitMa: 500, gives: { kind: "pin", boardId: "fern", volts: 5 } }] }),
        (run) => (run.id === "a" ? { ...run, from: supply("pin") } : run),
      ),
      sound({ more: [{ id: "pin", label: "Pin", limitMa: 500, gives: { kind: "pin", boardId: "fern", volts: 5 } }] }),
    ],
  ],
  ground: [
    ["a servo without a ground", sound({ toServo: { carries: "supply" } }), sound()],
    [
      "a board that is fed by something else",
      withRuns(sound({ more: [adapter("own", 5, 500)] }), (run) =>
        run.id === "fern" ? { ...run, from: supply("own") } : run,
      ),
      withRuns(
        sound({ more: [adapter("own", 5, 500)], extra: [feed("link", rail("r"), board, { carries: "ground" })] }),
        (run) => (run.id === "fern" ? { ...run, from: supply("own") } : run),
      ),
    ],
  ],
  level: [
    [
      "3 V into servos on 6 V",
      sound({ from: adapter("s", 6, 3000), boardPower: { logicVolts: 3 } }),
      sound({ from: adapter("s", 5, 3000), boardPower: { logicVolts: 3 } }),
    ],
    [
      "3.3 V into servos whose cards ask for 3.5",
      sound({ boardPower: { logicVolts: 3.3 }, change: cardsWith({ power: { ...usualCardPower, highVolts: 3.5 } }) }),
      sound({ boardPower: { logicVolts: 3.3 }, change: cardsWith({ power: { ...usualCardPower, highVolts: 2.9 } }) }),
    ],
    ["6 V into servos on 5", sound({ boardPower: { logicVolts: 6 } }), sound({ boardPower: { logicVolts: 5.6 } })],
  ],
  thinWire: [
    [
      "4 m of 0.13 mm²",
      sound({ toServo: { lengthMm: 4000, areaMm2: 0.13 } }),
      sound({ toServo: { lengthMm: 700, areaMm2: 0.13 } }),
    ],
    [
      "a breadboard for more than it bears",
      sound({
        from: adapter("s", 5, 9000),
        change: {
          cards: [0, 1].map((at) => ({
            ...plainCard(`card-${at}`, { stallMa: 4000 }),
            currents: { idleMa: 10, movingMa: 1500, highestMa: null },
          })),
        },
        toServo: { connector: "breadboard", areaMm2: 1 },
      }),
      sound({ toServo: { connector: "breadboard" } }),
    ],
    [
      "a hair for an ampere",
      sound({
        from: adapter("s", 5, 9000),
        change: {
          cards: [0, 1].map((at) => ({
            ...plainCard(`card-${at}`),
            currents: { idleMa: 10, movingMa: 1500, highestMa: null },
          })),
        },
        toServo: { areaMm2: 0.03, lengthMm: 20 },
      }),
      sound({ toServo: { areaMm2: 0.05, lengthMm: 20 } }),
    ],
  ],
  fuse: [
    [
      "a battery without one",
      sound({ from: battery(1) }),
      withRuns(sound({ from: battery(1) }), (run) =>
        run.id === "in" ? { ...run, fuse: { ratedMa: 3000, blows: "slow" } } : run,
      ),
    ],
    [
      "one larger than its wire",
      withRuns(sound({ from: battery(1) }), (run) =>
        run.id === "in" ? { ...run, fuse: { ratedMa: 15_000, blows: "slow" } } : run,
      ),
      withRuns(sound({ from: battery(1) }), (run) =>
        run.id === "in" ? { ...run, fuse: { ratedMa: 7500, blows: "slow" } } : run,
      ),
    ],
    [
      "one that an adapter never blows",
      withRuns(sound(), (run) => (run.id === "in" ? { ...run, fuse: { ratedMa: 3000, blows: "slow" } } : run)),
      withRuns(sound(), (run) => (run.id === "in" ? { ...run, fuse: { ratedMa: 2000, blows: "slow" } } : run)),
    ],
    [
      "one that blows in use",
      withRuns(sound({ from: battery(1) }), (run) =>
        run.id === "in" ? { ...run, fuse: { ratedMa: 250, blows: "slow" } } : run,
      ),
      withRuns(sound({ from: battery(1) }), (run) =>
        run.id === "in" ? { ...run, fuse: { ratedMa: 1000, blows: "slow" } } : run,
      ),
    ],
  ],
  headroom: [
    ["5 V out of 5.5", regulated(5.5), regulated(6.2)],
    ["linear from 12 V", regulated(12, { works: "linear" }), regulated(7, { works: "linear" })],
  ],
  joined: [
    [
      "two adapters on one rail",
      sound({ more: [adapter("t", 5, 3000)], extra: [feed("second", supply("t"), rail("r"))] }),
      sound({ more: [adapter("t", 5, 3000)], extra: [feed("second", supply("t"), rail("r"), { carries: "ground" })] }),
    ],
  ],
  polarity: [
    [
      "an old plug",
      sound({ change: cardsWith({ power: { plug: "supplyGroundSignal", highVolts: null } }) }),
      sound({ change: cardsWith({ power: usualCardPower }) }),
    ],
    ["pins the other way round", sound({ boardPower: { header: "signalSupplyGround" } }), sound()],
  ],
  busEnd: [
    ["30 m at this speed", onBus(30_000, true), onBus(15_000, true)],
    ["open at its end", onBus(14_000 * 4, false), onBus(1000, false)],
  ],
  unfed: [["a servo without a cable", withRuns(sound(), (run) => (run.id === "a" ? null : run)), sound()]],
  boardVolts: [
    [
      "a board behind a thin wire",
      sound({ toBoard: { lengthMm: 20_000, areaMm2: 0.05, carries: "both" } }),
      sound({ toBoard: { lengthMm: 2000, areaMm2: 0.13 } }),
    ],
  ],
};

function regulated(given: number, change: object = {}): Project {
  const project = sound({ from: adapter("s", given, 9000), more: [regulator(change)] });
  const runs = project.runs.map((run) => (run.id === "in" ? { ...run, from: supply("reg") } : run));
  return { ...project, runs: [...runs, wire("reg-in", supply("s"), supply("reg"), 0.01, { areaMm2: 2.5 })] };
}

const of = (rule: RuleKind, project: Project): readonly Found[] => review(project).filter((one) => one.rule === rule);
const all = Object.entries(cases).flatMap(([rule, list]) =>
  list.map(([what, trips, near]) => [rule as RuleKind, what, trips, near] as const),
);

test("a sound bench has nothing to be said of it", () => {
  expect(review(sound())).toEqual([]);
  expect(Object.keys(cases).sort()).toEqual(Object.keys(rules).sort());
});

test.each(all)("%s: %s is found; what is near it is not", (rule, _, trips, near) => {
  expect(of(rule, trips)).not.toEqual([]);
  expect(of(rule, near)).toEqual([]);
});

test.each(all)("%s: %s: each way out can be taken, and it is gone", (rule, _, trips) => {
  for (const { sentence, waysOut } of of(rule, trips)) {
    expect(sentence).not.toMatch(/NaN|undefined|Infinity|−0/);
    for (const { words, wiring } of waysOut) {
      const mended = applyEdit(setWiring(words, wiring), trips);
      if (!mended.ok) throw new Error(`${words}: ${mended.problem}`);
      expect(of(rule, mended.value).map((one) => one.sentence)).not.toContain(sentence);
    }
  }
});

test("the greenhouse has two things wrong with its wiring; both can be mended, and then there is none", () => {
  const found = review(demo);
  expect(found.map(({ rule, about }) => [rule, about.id])).toEqual([
    ["thinWire", "run-vent-crank"],
    ["weak", "supply-owl"],
  ]);
  const mended = found.reduce((project, { waysOut: [first] }) => {
    const done = applyEdit(setWiring("Mend", first?.wiring ?? {}), project);
    if (!done.ok) throw new Error(done.problem);
    return done.value;
  }, demo);
  expect(review(mended)).toEqual([]);
});
