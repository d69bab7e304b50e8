import type { Body, Drive, Figure, Joint, Part, Place, Rig, Tip } from "@core/project";
import type { Shape, Vector } from "@core/shapes";

/** A machine that most people begin with, in sizes of hobby servos, to be changed from there. It takes the rig's joints in their order. */
export interface Beginning {
  readonly id: string;
  readonly name: string;
  readonly says: string;
  /** How many joints it would use at most. */
  readonly uses: number;
  readonly make: (joints: readonly Joint[], newId: () => string) => Pick<Figure, "parts" | "tips" | "mayTouch">;
}

const at = (x: number, y: number, z: number, turnDeg: Vector = [0, 0, 0]): Place => ({ atMm: [x, y, z], turnDeg });
const alongX: Vector = [0, 90, 0];
const alongY: Vector = [90, 0, 0];
const body = (shape: Shape, place: Place, color = "#8fa39c"): Body => ({ shape, place, color, isSolid: true });
const box = (x: number, y: number, z: number): Shape => ({ kind: "box", sizeMm: [x, y, z] });
const rod = (radiusMm: number, lengthMm: number): Shape => ({ kind: "rod", radiusMm, lengthMm });
const [iron, brass, pale] = ["#5c6b68", "#d9ae55", "#c9d3cb"] as const;

/** Builds parts one on the other, with ids of their own. */
class Maker {
  readonly parts: Part[] = [];
  readonly tips: Tip[] = [];
  readonly mayTouch: (readonly [string, string])[] = [];
  readonly #newId: () => string;
  readonly #joints: readonly Joint[];
  #used = 0;

  constructor(joints: readonly Joint[], newId: () => string) {
    this.#joints = joints;
    this.#newId = newId;
  }

  /** The next joint of the rig; one that nobody has yet where there are no more. */
  drive(ratio = 1): Drive {
    const joint = this.#joints[this.#used];
    this.#used += 1;
    return { kind: "joint", jointId: joint?.id ?? null, ratio, offset: 0 };
  }

  fixed(
    label: string,
    parent: Part | null,
    place: Place,
    massG: number,
    bodies: readonly Body[],
    centreMm: Vector = [0, 0, 0],
  ): Part {
    return this.#add({
      label,
      parentId: parent?.id ?? null,
      place,
      motion: { kind: "fixed" },
      massG,
      bodies,
      centreMm,
    });
  }

  turns(
    label: string,
    parent: Part | null,
    place: Place,
    axis: Vector,
    by: Drive,
    massG: number,
    bodies: readonly Body[],
    centreMm: Vector = [0, 0, 0],
  ): Part {
    return this.#add({
      label,
      parentId: parent?.id ?? null,
      place,
      motion: { kind: "turn", axis, by },
      massG,
      bodies,
      centreMm,
    });
  }

  tip(label: string, part: Part, place: Place, does: Tip["does"]): void {
    this.tips.push({ id: this.#newId(), label, partId: part.id, place, does });
  }

  #add(part: Omit<Part, "id" | "inertiaGMm2">): Part {
    const made = { ...part, id: this.#newId(), inertiaGMm2: null };
    this.parts.push(made);
    return made;
  }
}

/** Two jaws on a part; the second follows the first. */
function jaws(maker: Maker, hand: Part, place: Place): void {
  const jaw = (side: 1 | -1) => [body(box(8, 5, 34), at(0, side * 2, 17, [side * 6, 0, 0]), brass)];
  const shifted = (side: 1 | -1): Place => ({
    ...place,
    atMm: [place.atMm[0], place.atMm[1] + side * 8, place.atMm[2]],
  });
  const first = maker.turns("Jaw", hand, shifted(1), [1, 0, 0], maker.drive(-0.5), 8, jaw(1), [0, 2, 15]);
  const other = maker.turns(
    "Other jaw",
    hand,
    shifted(-1),
    [1, 0, 0],
    { kind: "part", partId: first.id, ratio: -1, offset: 0, range: null },
    8,
    jaw(-1),
    [0, -2, 15],
  );
  maker.mayTouch.push([first.id, other.id]);
}

const arm = (count: number): Beginning => ({
  id: `arm-${count}`,
  name: `Arm of ${count} joints`,
  says:
    [
      "turns, lifts, bends",
      "turns, lifts, bends, tilts its hand",
      "turns, lifts, bends, tilts its hand, and grips",
      "turns, lifts, bends, rolls and tilts its hand, and grips",
    ][count - 3] ?? "",
  uses: count,
  make: (joints, newId) => {
    const maker = new Maker(joints, newId);
    const foot = maker.fixed("Foot", null, at(0, 0, 0), 250, [
      body({ kind: "cone", radiusMm: 45, topRadiusMm: 40, lengthMm: 20 }, at(0, 0, 10), iron),
    ]);
    const table = maker.turns(
      "Turntable",
      foot,
      at(0, 0, 21),
      [0, 0, 1],
      maker.drive(),
      90,
      [body(rod(34, 8), at(0, 0, 4), iron), body(box(24, 30, 30), at(0, 0, 22), iron)],
      [0, 0, 18],
    );
    const link = (label: string, parent: Part, length: number, width: number, place: Place, massG: number) =>
      maker.turns(
        label,
        parent,
        place,
        [0, 1, 0],
        maker.drive(),
        massG,
        [
          body(box(width, width * 0.8, length - 14), at(0, 0, length / 2)),
          body(rod(width * 0.55, width + 4), at(0, 0, 0, alongY)),
        ],
        [0, 0, length * 0.6],
      );
    const upper = link("Upper arm", table, 120, 20, at(0, 0, 40), 80);
    const fore = link("Forearm", upper, 100, 16, at(0, 0, 120), 60);
    let [hand, end]: [Part, number] = [fore, 100];
    if (count >= 6) {
      hand = maker.turns(
        "Wrist roll",
        fore,
        at(0, 0, 100),
        [0, 0, 1],
        maker.drive(),
        25,
        [body(rod(9, 18), at(0, 0, 9), pale)],
        [0, 0, 9],
      );
      end = 20;
    }
    if (count >= 4) {
      hand = link("Hand", hand, 40, 13, at(0, 0, end), 35);
      end = 40;
    }
    if (count >= 5) {
      jaws(maker, hand, at(0, 0, end));
      end += 26;
    }
    maker.tip("Hand", hand, at(0, 0, end, [0, -90, 0]), "reach");
    return maker;
  },
});

const panTilt: Beginning = {
  id: "pan-tilt",
  name: "Pan and tilt",
  says: "a camera or a lamp that turns and nods",
  uses: 2,
  make: (joints, newId) => {
    const maker = new Maker(joints, newId);
    const foot = maker.fixed("Foot", null, at(0, 0, 0), 120, [
      body(box(60, 60, 8), at(0, 0, 4), iron),
      body(box(24, 14, 30), at(0, 0, 23), iron),
    ]);
    const pan = maker.turns(
      "Pan",
      foot,
      at(0, 0, 39),
      [0, 0, 1],
      maker.drive(),
      30,
      [
        body(rod(12, 6), at(0, 0, 3), pale),
        body(box(22, 4, 40), at(0, 22, 24), pale),
        body(box(22, 44, 4), at(0, 0, 8), pale),
      ],
      [0, 0, 15],
    );
    const head = maker.turns(
      "Tilt",
      pan,
      at(0, 0, 34),
      [0, 1, 0],
      maker.drive(),
      50,
      [body(box(34, 34, 26), at(4, 0, 0)), body(rod(8, 10), at(26, 0, 0, alongX), brass)],
      [6, 0, 0],
    );
    maker.tip("Look", head, at(31, 0, 0), "look");
    return maker;
  },
};

const head: Beginning = {
  id: "head",
  name: "Head with eyes, lids and jaw",
  says: "neck turn and nod, two eyes, two lids, a jaw",
  uses: 7,
  make: (joints, newId) => {
    const maker = new Maker(joints, newId);
    const neck = maker.fixed("Post", null, at(0, 0, 0), 300, [
      body({ kind: "cone", radiusMm: 45, topRadiusMm: 20, lengthMm: 50 }, at(0, 0, 25), iron),
    ]);
    const turn = maker.turns("Neck", neck, at(0, 0, 51), [0, 0, 1], maker.drive(), 40, [
      body(rod(18, 14), at(0, 0, 7), iron),
    ]);
    const skull = maker.turns(
      "Head",
      turn,
      at(0, 0, 18),
      [0, 1, 0],
      maker.drive(),
      260,
      [
        body(box(70, 90, 60), at(0, 0, 62)),
        body(box(60, 80, 16), at(0, 0, 100)),
        body(box(30, 70, 26), at(-14, 0, 19)),
      ],
      [0, 0, 55],
    );
    const sides: readonly (readonly [string, 1 | -1])[] = [
      ["Left", 1],
      ["Right", -1],
    ];
    const globes = sides.map(([side, sign]) => {
      const pan = maker.turns(`${side} eye, sideways`, skull, at(34, sign * 22, 68), [0, 0, 1], maker.drive(), 6, []);
      return { side, sign, pan };
    });
    const tilt = maker.drive();
    for (const { side, pan } of globes) {
      const eye = maker.turns(`${side} eye`, pan, at(0, 0, 0), [0, 1, 0], tilt, 6, [
        body({ kind: "ball", radiusMm: 14 }, at(0, 0, 0), "#f4efe2"),
        { ...body(rod(6, 2), at(13.4, 0, 0, alongX), "#2d4a57"), isSolid: false },
      ]);
      maker.mayTouch.push([eye.id, skull.id]);
      maker.tip(`${side} eye's look`, eye, at(14, 0, 0), "look");
    }
    const lid = maker.drive(-1);
    for (const { side, sign } of globes)
      maker.turns(
        `${side} lid`,
        skull,
        at(34, sign * 22, 68),
        [0, 1, 0],
        lid,
        4,
        [{ ...body(box(4, 30, 18), at(14, 0, 9, [0, 20, 0])), isSolid: false }],
        [14, 0, 8],
      );
    maker.turns(
      "Jaw",
      skull,
      at(0, 0, 28),
      [0, 1, 0],
      maker.drive(),
      45,
      [body(box(40, 62, 12), at(20, 0, -6), pale)],
      [20, 0, -4],
    );
    return maker;
  },
};

const leg: Beginning = {
  id: "leg",
  name: "Leg of three joints",
  says: "hip sideways, thigh, shin; the foot is its tip",
  uses: 3,
  make: (joints, newId) => {
    const maker = new Maker(joints, newId);
    const frame = maker.fixed("Body", null, at(0, 0, 0), 400, [
      body(box(80, 10, 10), at(0, -30, 140), iron),
      body(box(10, 10, 146), at(-60, -30, 73), iron),
      body(box(70, 60, 6), at(-40, -30, 3), iron),
    ]);
    const hip = maker.turns("Hip", frame, at(0, 0, 140), [1, 0, 0], maker.drive(), 30, [
      body(rod(12, 24), at(0, 0, 0, alongX)),
    ]);
    const thigh = maker.turns(
      "Thigh",
      hip,
      at(0, 18, 0),
      [0, 1, 0],
      maker.drive(),
      45,
      [body(box(16, 12, 62), at(0, 0, -32)), body(rod(9, 14), at(0, 0, 0, alongY))],
      [0, 0, -30],
    );
    const shin = maker.turns(
      "Shin",
      thigh,
      at(0, 0, -64),
      [0, 1, 0],
      maker.drive(),
      30,
      [body(box(12, 10, 62), at(0, 0, -32)), body({ kind: "ball", radiusMm: 7 }, at(0, 0, -66), brass)],
      [0, 0, -30],
    );
    maker.tip("Foot", shin, at(0, 0, -73, [0, 90, 0]), "reach");
    return maker;
  },
};

const gripper: Beginning = {
  id: "gripper",
  name: "Gripper",
  says: "two jaws by one servo",
  uses: 1,
  make: (joints, newId) => {
    const maker = new Maker(joints, newId);
    const base = maker.fixed("Palm", null, at(0, 0, 0), 80, [body(box(30, 40, 36), at(0, 0, 18), iron)]);
    jaws(maker, base, at(0, 0, 37));
    maker.tip("Between the jaws", base, at(0, 0, 66, [0, -90, 0]), "reach");
    return maker;
  },
};

const wheel: Beginning = {
  id: "wheel",
  name: "Wheel",
  says: "a servo that turns on and on",
  uses: 1,
  make: (joints, newId) => {
    const maker = new Maker(joints, newId);
    const post = maker.fixed("Bracket", null, at(0, 0, 0), 60, [
      body(box(50, 50, 5), at(0, -20, 2.5), iron),
      body(box(24, 20, 46), at(0, -20, 28), iron),
    ]);
    maker.turns("Wheel", post, at(0, 0, 36), [0, 1, 0], maker.drive(), 30, [
      body(rod(32, 10), at(0, 2, 0, alongY), "#3b342a"),
      { ...body(box(6, 12, 44), at(0, 2, 0), brass), isSolid: false },
    ]);
    return maker;
  },
};

export const beginnings: readonly Beginning[] = [arm(3), arm(4), arm(5), arm(6), panTilt, head, leg, gripper, wheel];

/** A figure that begins so, for a rig, with the joints that it has. */
export function begun(beginning: Beginning, rig: Rig, joints: readonly Joint[], newId: () => string): Figure {
  const own = joints.filter(({ rigId }) => rigId === rig.id);
  const { parts, tips, mayTouch } = beginning.make(own, newId);
  return {
    id: newId(),
    label: rig.label,
    rigId: rig.id,
    place: at(0, 0, 0),
    parts,
    tips,
    springs: [],
    mayTouch,
    useShare: 0.5,
  };
}
