import { easingNames, newEasing } from "../../src/core/easings";
import { type Encoding, newEncoding } from "../../src/core/encodings";
import {
  type Board,
  checkProject,
  emptyProject,
  emptyRoutine,
  type Joint,
  type Project,
  type Routine,
  type ServoCard,
  type TakeData,
  usualControl,
} from "../../src/core/project";
import { newCard } from "../../src/core/servo";
import { seededRandom } from "../../src/core/sim";
import { freshMove, type Step } from "../../src/core/steps";

const oddLabels = [
  "Neck turn",
  "for",
  "2nd lid",
  "首",
  "Größe",
  "lid",
  "LID!",
  "int main",
  "*/ }",
  "%s",
  "None",
  "",
  "été",
  "a\\b",
  "/* left",
  "Count",
  "\u202Eright",
  "\0",
  "耳",
  "Ear—tuft",
];

/** A rig made up from a number: boards of all kinds, odd curves and labels, reversed joints, routines of all that there is. */
export function randomRig(seed: number): { readonly project: Project; readonly takes: readonly TakeData[] } {
  const random = seededRandom(seed);
  const within = (low: number, high: number) => low + (high - low) * random();
  const whole = (low: number, high: number) => Math.floor(within(low, high + 1));
  const rounded = (value: number, step: number) => Math.round(value / step) * step;
  const one = <Item>(items: readonly Item[]): Item => items[Math.floor(random() * items.length)] as Item;
  const chance = (share: number) => random() < share;

  const encodings: readonly (() => Encoding)[] = [
    () => ({
      kind: "counts",
      bits: whole(10, 16),
      fullScale: one(["2^n", "2^n-1"]),
      rounding: one(["round", "truncate"]),
    }),
    () => ({
      kind: "pulseChip",
      oscillatorHz: 20_000_000,
      oscillatorErrorPercent: rounded(within(-4, 4), 0.1),
      bits: whole(12, 14),
      rounding: one(["round", "truncate"]),
    }),
    () => ({
      kind: "timer",
      clockHz: one([8_000_000, 16_000_000, 72_000_000]),
      prescale: one([8, 64, 72]),
      counterBits: 16,
      alignment: one(["edge", "centre"]),
      output: one(["normal", "inverted"]),
    }),
    () => newEncoding("microseconds"),
    () => newEncoding("software"),
    () => newEncoding("percent"),
  ];
  const boards: Board[] = Array.from({ length: whole(1, 2) }, (_, at) => ({
    id: `board-${at}`,
    label: `Board ${at}`,
    channels: 16,
    frameHz: [50],
    encoding: one(encodings)(),
    silence: { afterMs: 500, action: "release" },
    link: { kind: "simulated" },
  }));

  const cardOf = (id: string, isSpin: boolean): ServoCard => {
    const fresh = newCard(isSpin ? "continuous" : "positional", id, `Servo ${id}`);
    if (fresh.kind !== "positional") return fresh;
    const isFalling = chance(0.3);
    const [a, b] = [rounded(within(600, 1100), 1), rounded(within(1900, 2400), 1)];
    const bend = within(-0.2, 0.2);
    const last = whole(1, 6);
    const points = Array.from({ length: last + 1 }, (_, at) => {
      const share = at / last;
      const turned = isFalling ? 1 - share : share;
      return { angleDeg: 180 * share, setPoint: a + (b - a) * (turned + bend * turned * (1 - turned)) };
    });
    const made = { id: `made-${id}`, madeAt: "2026-01-01T00:00:00.000Z", note: "", points };
    return {
      ...fresh,
      travelDeg: 180,
      window: chance(0.3) ? { low: a + 120, high: b - 90 } : { low: 500, high: 2500 },
      calibrations: chance(0.7) ? [{ kind: one(["line", "piecewise"]), ...made }] : [],
    };
  };

  const joints: Joint[] = [];
  const cards: ServoCard[] = [];
  for (let at = 0; at < whole(1, 7); at += 1) {
    const id = `j${at}`;
    const isSpin = chance(0.15);
    cards.push(cardOf(`card-${id}`, isSpin));
    const low = rounded(within(-80, -5), 0.5);
    const high = rounded(within(5, 80), 0.5);
    joints.push({
      id,
      label: one(oddLabels) || `Joint ${at}`,
      rigId: "rig",
      cardId: `card-${id}`,
      boardId: one(boards).id,
      channel: at,
      axis: isSpin
        ? {
            kind: "spin",
            direction: one([1, -1]),
            limit: 0.8,
            rampPerS: chance(0.5) ? 2 : null,
            atRest: one(["neutral", "release"]),
          }
        : {
            kind: "angle",
            direction: one([1, -1]),
            zeroDeg: rounded(within(70, 110), 0.5),
            travel: { low, high },
            homeDeg: rounded(within(low, high), 0.5),
            speedLimitDegPerS: chance(0.5) ? rounded(within(40, 400), 1) : null,
          },
      control: usualControl,
    });
  }

  const targetOf = ({ axis }: Joint) =>
    axis.kind === "spin" ? (chance(0.4) ? 0 : within(-0.8, 0.8)) : within(axis.travel.low - 4, axis.travel.high + 4);
  const clamped = (joint: Joint, target: number) =>
    joint.axis.kind === "spin" ? target : Math.min(Math.max(target, joint.axis.travel.low), joint.axis.travel.high);
  const poses = Array.from({ length: whole(2, 5) }, (_, at) => ({
    id: `p${at}`,
    name: one(oddLabels) || `Pose ${at}`,
    group: "",
    targets: Object.fromEntries(
      joints.flatMap((joint) => (chance(0.75) ? [[joint.id, rounded(clamped(joint, targetOf(joint)), 0.01)]] : [])),
    ),
  }));
  const easings = Object.keys(easingNames) as (keyof typeof easingNames)[];
  const moveOf = (id: string): Step => ({
    ...freshMove(id, one(poses).id),
    pace: chance(0.7)
      ? { kind: "time", moveMs: chance(0.1) ? 0 : whole(50, 1500) }
      : { kind: "speed", degPerS: whole(20, 200) },
    easing: newEasing(one(easings)),
    staggerMs: chance(0.3) ? whole(10, 150) : 0,
    delaysMs: chance(0.3) ? { [one(joints).id]: whole(10, 400) } : {},
    holdMs: chance(0.5) ? whole(0, 600) : 0,
  });
  const stepsOf = (prefix: string, routineIds: readonly string[]): Step[] =>
    Array.from({ length: whole(1, 6) }, (_, at): Step => {
      const id = `${prefix}-${at}`;
      const kind = random();
      if (kind < 0.12) return { kind: "hold", id, holdMs: whole(20, 900) };
      if (kind < 0.2 && routineIds.length > 0)
        return { kind: "routine", id, routineId: one(routineIds), times: whole(1, 3) };
      if (kind < 0.25)
        return {
          kind: "wait",
          id,
          sourceId: "door",
          side: "above",
          level: 0.5,
          timeoutMs: whole(100, 900),
          ifTimeout: one(["goOn", "goOn", "stop"]),
        };
      if (kind < 0.3) return { kind: "label", id, text: "Mark */" };
      return moveOf(id);
    });
  const routineOf = (at: number, inner: readonly string[]): Routine => ({
    ...emptyRoutine(`r${at}`, one(oddLabels) || `Routine ${at}`),
    steps: stepsOf(`r${at}`, inner),
    lanes: chance(0.35)
      ? [one(joints)].map((joint) => ({
          jointId: joint.id,
          mode: one(["replace", "replace", "add"] as const),
          keys: Array.from({ length: whole(1, 5) }, (_, key) => ({
            atMs: key * 400 + whole(0, 300),
            target: clamped(joint, targetOf(joint)),
            shape: one(["line", "smooth", "step"] as const),
          })),
        }))
      : [],
    repeat: chance(0.3) ? { kind: "forever" } : { kind: "times", times: whole(1, 3) },
    isThereAndBack: chance(0.3),
    atEnd: one(["hold", "release"] as const),
  });
  const taken = chance(0.4) ? joints.filter(() => chance(0.7)) : [];
  const frames = whole(30, 150);
  const takes: TakeData[] =
    taken.length === 0
      ? []
      : [
          {
            id: "take",
            channels: Object.fromEntries(
              taken.map((joint) => {
                const [a, b, slow] = [targetOf(joint), targetOf(joint), within(6, 25)];
                const samples = Float32Array.from(
                  { length: frames },
                  (_, at) => a + (b - a) * Math.sin(at / slow) ** 2,
                );
                return [joint.id, samples];
              }),
            ),
          },
        ];
  const clipped = (routine: Routine): Routine =>
    takes.length === 0 || chance(0.5)
      ? routine
      : {
          ...routine,
          clips: [
            {
              id: `clip-${routine.id}`,
              takeId: "take",
              atMs: whole(0, 800),
              fromMs: 0,
              toMs: (frames - 1) * 20,
              stretch: one([0.5, 1, 1.5]),
              fadeInMs: one([0, 200]),
              fadeOutMs: one([0, 200]),
              mode: one(["replace", "add"] as const),
              jointIds: null,
              isMuted: false,
            },
          ],
        };
  const inner = routineOf(0, []);
  const project: Project = {
    ...emptyProject("random", `Rig ${seed} ${one(oddLabels)}`.trim()),
    boards,
    cards,
    rigs: [{ id: "rig", label: "Rig", mirror: [] }],
    joints,
    poses,
    sources: [
      {
        id: "door",
        label: "Door",
        range: { low: 0, high: 1 },
        origin: { kind: "slider", lowAt: "left" },
        isMuted: false,
        ifLost: { kind: "hold" },
      },
    ],
    routines: [inner, clipped(routineOf(1, ["r0"])), clipped(routineOf(2, ["r0"]))],
    takes: takes.map(({ id }) => ({
      id,
      name: "Take",
      madeAt: "2026-01-01T00:00:00.000Z",
      frameMs: 20,
      frames,
      jointIds: taken.map((joint) => joint.id),
    })),
  };
  const checked = checkProject(project);
  if (!checked.ok) throw new Error(`${seed}: ${checked.problem}`);
  return { project: checked.value, takes };
}
