import type { Body, Drive, Figure, Motion, Part, Place, Thing } from "@core/project";
import type { Shape, Vector } from "@core/shapes";

/** Trellis, Tawny and Vent as they stand on the table: x towards who looks at them, y to the right of the picture, z up. All in mm, g and degrees. */

const at = (x: number, y: number, z: number, turnDeg: Vector = [0, 0, 0]): Place => ({ atMm: [x, y, z], turnDeg });
/** A plate that is looked at from the front: its own x to the right, its own y up. */
const frontal: Vector = [90, 0, 90];
/** What is long lies along x, or along y. */
const alongX: Vector = [0, 90, 0];
const alongY: Vector = [90, 0, 0];

const body = (shape: Shape, color: string, place: Place): Body => ({ shape, color, place, isSolid: true });
const painted = (shape: Shape, color: string, place: Place): Body => ({ shape, color, place, isSolid: false });
const box = (x: number, y: number, z: number): Shape => ({ kind: "box", sizeMm: [x, y, z] });
const rod = (radiusMm: number, lengthMm: number): Shape => ({ kind: "rod", radiusMm, lengthMm });
const cone = (radiusMm: number, topRadiusMm: number, lengthMm: number): Shape => ({
  kind: "cone",
  radiusMm,
  topRadiusMm,
  lengthMm,
});
const plate = (thickMm: number, outlineMm: readonly (readonly [number, number])[]): Shape => ({
  kind: "plate",
  thickMm,
  outlineMm,
});
/** To a hundredth; without a minus sign before nothing, which no file would bring back. */
const hundredth = (value: number): number => Math.round(value * 100) / 100 + 0;
const oval = (rx: number, ry: number): readonly (readonly [number, number])[] =>
  Array.from({ length: 20 }, (_, index) => {
    const angle = (2 * Math.PI * index) / 20;
    return [hundredth(rx * Math.cos(angle)), hundredth(ry * Math.sin(angle))] as const;
  });

const byJoint = (jointId: string, ratio = 1, offset = 0): Drive => ({ kind: "joint", jointId, ratio, offset });
const byPart = (partId: string, ratio: number): Drive => ({ kind: "part", partId, ratio, offset: 0, range: null });
const turns = (axis: Vector, by: Drive): Motion => ({ kind: "turn", axis, by });
const fixed: Motion = { kind: "fixed" };

const part = (
  id: string,
  label: string,
  parentId: string | null,
  place: Place,
  motion: Motion,
  massG: number,
  bodies: readonly Body[],
  centreMm: Vector = [0, 0, 0],
): Part => ({ id, label, parentId, place, motion, massG, bodies, centreMm, inertiaGMm2: null });

const [iron, steel, pale, brass] = ["#5c6b68", "#8fa39c", "#c9d3cb", "#d9ae55"] as const;
const jaw = (side: 1 | -1) => [
  body(box(5, 12, 22), brass, at(side * 2.5, 0, 11, [0, side * 12, 0])),
  body(box(4, 12, 14), brass, at(side * 4, 0, 26, [0, side * -8, 0])),
];

const trellis: Figure = {
  id: "figure-trellis",
  label: "Trellis",
  rigId: "trellis",
  // It reaches along the table, towards the owl.
  place: at(0, -170, 0, [0, 0, 90]),
  parts: [
    part("trellis-foot", "Foot", null, at(0, 0, 0), fixed, 300, [body(cone(46, 40, 16), iron, at(0, 0, 8))]),
    part(
      "trellis-turntable",
      "Turntable",
      "trellis-foot",
      at(0, 0, 17),
      turns([0, 0, 1], byJoint("turntable")),
      160,
      [
        body(rod(35, 10), "#7d8f8a", at(0, 0, 5)),
        body(box(26, 5, 34), iron, at(0, 15, 26)),
        body(box(26, 5, 34), iron, at(0, -15, 26)),
        painted(rod(3, 3), brass, at(29, 0, 11)),
      ],
      [0, 0, 20],
    ),
    part(
      "trellis-upper",
      "Upper arm",
      "trellis-turntable",
      at(0, 0, 32),
      turns([0, 1, 0], byJoint("shoulder")),
      95,
      [
        body(box(21, 17, 100), steel, at(0, 0, 52)),
        body(rod(11, 24), steel, at(0, 0, 0, alongY)),
        body(rod(11, 22), steel, at(0, 0, 110, alongY)),
        painted(rod(5, 36), "#46524f", at(0, 0, 0, alongY)),
      ],
      [0, 0, 70],
    ),
    part(
      "trellis-fore",
      "Forearm",
      "trellis-upper",
      at(0, 0, 110),
      turns([0, 1, 0], byJoint("elbow")),
      70,
      [
        body(box(17, 14, 84), "#a9bab2", at(0, 0, 48)),
        body(rod(9, 18), "#a9bab2", at(0, 0, 95, alongY)),
        painted(rod(4.5, 26), "#46524f", at(0, 0, 0, alongY)),
      ],
      [0, 0, 60],
    ),
    part(
      "trellis-hand",
      "Hand",
      "trellis-fore",
      at(0, 0, 95),
      turns([0, 1, 0], byJoint("wrist-tilt")),
      42,
      [
        body(box(14, 13, 26), pale, at(0, 0, 17)),
        body(box(24, 15, 8), pale, at(0, 0, 32)),
        painted(rod(3.5, 22), "#46524f", at(0, 0, 0, alongY)),
      ],
      [0, 0, 22],
    ),
    part(
      "trellis-jaw",
      "Jaw",
      "trellis-hand",
      at(5, 0, 36),
      turns([0, 1, 0], byJoint("grip", 0.5)),
      6,
      jaw(1),
      [0, 0, 15],
    ),
    part(
      "trellis-jaw-other",
      "Other jaw",
      "trellis-hand",
      at(-5, 0, 36),
      turns([0, 1, 0], byPart("trellis-jaw", -1)),
      6,
      jaw(-1),
      [0, 0, 15],
    ),
  ],
  tips: [
    // It points along the hand, out between the jaws.
    {
      id: "trellis-grip",
      label: "Hand of Trellis",
      partId: "trellis-hand",
      place: at(0, 0, 62, [0, -90, 0]),
      does: "reach",
    },
  ],
  springs: [],
  mayTouch: [
    ["trellis-jaw", "trellis-jaw-other"],
    ["trellis-foot", "trellis-upper"],
  ],
  useShare: 0.5,
};

const [feather, dark, face] = ["#8a6a48", "#6f5236", "#d8c19a"] as const;
/** Where the face begins: the front of the head. */
const front = 26;

const eye = (side: 1 | -1): readonly Body[] => [
  painted(plate(2, oval(30, 33)), face, at(front + 1, side * 25, 2, frontal)),
  painted(plate(2, oval(19, 19)), "#5b4630", at(front + 3, side * 24, 0, frontal)),
  painted(plate(2, oval(17, 17)), "#f0c65a", at(front + 5, side * 24, 0, frontal)),
  painted(plate(2, oval(9, 9)), "#15110b", at(front + 7, side * 24, 0, frontal)),
  painted(plate(2, oval(3, 3)), "#fff8e0", at(front + 9, side * 24 + 3.5, 4.5, frontal)),
];

/** A lid hangs from the upper edge of its eye and is lifted by turning. Closed it covers the eye. */
const lid = (id: string, label: string, side: 1 | -1): Part =>
  part(
    id,
    label,
    "tawny-head",
    at(front + 11, side * 24, 75),
    turns([0, 1, 0], byJoint(id === "tawny-lid-left" ? "left-lid" : "right-lid", -2)),
    4,
    [painted(plate(2, oval(18.5, 18.5)), "#b79a70", at(0, 0, -18.5, frontal))],
    [0, 0, -15],
  );

const tuft = (id: string, label: string, side: 1 | -1, by: Drive): Part =>
  part(
    id,
    label,
    "tawny-head",
    at(4, side * 40, 96),
    turns([1, 0, 0], by),
    5,
    [
      body(
        plate(6, [
          [side * 8, -8],
          [side * 20, 40],
          [side * -20, 12],
        ]),
        dark,
        at(0, 0, 0, frontal),
      ),
    ],
    [0, side * 5, 12],
  );

const tawny: Figure = {
  id: "figure-tawny",
  label: "Tawny",
  rigId: "tawny",
  place: at(0, 130, 0),
  parts: [
    part("tawny-post", "Post", null, at(0, 0, 0), fixed, 400, [
      body(cone(34, 28, 8), "#3d2f20", at(0, 0, 4)),
      body(cone(15, 11, 56), "#5b4630", at(0, 0, 36)),
    ]),
    part("tawny-neck", "Neck", "tawny-post", at(0, 0, 64), turns([0, 0, 1], byJoint("neck-turn")), 25, [
      body(rod(17, 10), "#5b4630", at(0, 0, 5)),
    ]),
    part(
      "tawny-head",
      "Head",
      "tawny-neck",
      at(0, 0, 12),
      turns([0, 1, 0], byJoint("neck-nod", -1)),
      180,
      [
        body(rod(60, 46), feather, at(3, 0, 58, alongX)),
        body(cone(40, 60, 22), feather, at(-31, 0, 58, alongX)),
        ...[...eye(1), ...eye(-1)].map((one) => ({
          ...one,
          place: { ...one.place, atMm: raised(one.place.atMm, 58) },
        })),
        // The crest, down between the eyes.
        painted(
          plate(2, [
            [-52, 22],
            [-26, 44],
            [0, 50],
            [26, 44],
            [52, 22],
            [24, 28],
            [8, 22],
            [0, 4],
            [-8, 22],
            [-24, 28],
          ]),
          dark,
          at(front + 2, 0, 62, frontal),
        ),
        // The upper beak stands out from the face.
        body(cone(9, 0, 26), "#4b3a22", at(front + 8, 0, 38, [0, 155, 0])),
      ],
      [2, 0, 55],
    ),
    lid("tawny-lid-left", "Left lid", 1),
    lid("tawny-lid-right", "Right lid", -1),
    part(
      "tawny-beak",
      "Lower beak",
      "tawny-head",
      at(front, 0, 34),
      turns([0, 1, 0], byJoint("beak", 1)),
      5,
      [painted(cone(6, 0, 20), "#6b5330", at(9, 0, -7, [0, 125, 0]))],
      [8, 0, -5],
    ),
    tuft("tawny-tuft-left", "Left tuft", 1, byJoint("ear-tuft", -0.6)),
    tuft("tawny-tuft-right", "Right tuft", -1, byPart("tawny-tuft-left", -1)),
  ],
  tips: [
    { id: "tawny-look", label: "Look of Tawny", partId: "tawny-head", place: at(front, 0, 58), does: "look" },
    {
      id: "tawny-beak-tip",
      label: "Beak of Tawny",
      partId: "tawny-head",
      place: at(front + 12, 0, 26, [0, 60, 0]),
      does: "reach",
    },
  ],
  springs: [],
  mayTouch: [
    ["tawny-tuft-left", "tawny-tuft-right"],
    ["tawny-post", "tawny-head"],
  ],
  useShare: 0.5,
};

function raised([x, y, z]: Vector, byMm: number): Vector {
  return [x, y, z + byMm];
}

const apex = { y: -40, z: 345 } as const;
/** The slope of the roof, down to either side. */
const slopeDeg = 22;

const vent: Figure = {
  id: "figure-vent",
  label: "Vent",
  rigId: "vent",
  place: at(-60, apex.y, apex.z),
  parts: [
    part("vent-crank", "Crank", null, at(12, 44, -62), turns([1, 0, 0], byJoint("vent-crank", -1)), 20, [
      body(rod(14, 6), "#9fb5ae", at(0, 0, 0, alongX)),
      body(box(5, 5, 24), brass, at(5, 0, 12)),
      body(rod(4, 12), brass, at(10, 0, 23, alongX)),
    ]),
    // Four turns of the crank open it fully.
    part(
      "vent-flap",
      "Flap",
      null,
      at(0, 0, 0, [-slopeDeg, 0, 0]),
      {
        kind: "turn",
        axis: [1, 0, 0],
        by: { kind: "part", partId: "vent-crank", ratio: -34 / 1440, offset: 0, range: { low: 0, high: 34 } },
      },
      150,
      [body(box(60, 112, 4), "#9fc4bd", at(0, 58, 0))],
      [0, 58, 0],
    ),
  ],
  tips: [],
  springs: [],
  mayTouch: [],
  useShare: 0.5,
};

export const demoFigures: readonly Figure[] = [trellis, tawny, vent];

const thing = (id: string, label: string, kind: Thing["kind"], shape: Shape, color: string, place: Place): Thing => ({
  id,
  label,
  kind,
  shape,
  color,
  place,
});

/** A tray with seedlings, at a place along the table. */
function tray(id: string, label: string, y: number): readonly Thing[] {
  const seedlings = [-16, 0, 16].map((off, index) =>
    thing(
      `${id}-${index}`,
      `Seedling ${index + 1} of ${label}`,
      "seen",
      cone(6, 0, 16),
      "#7fae78",
      at(10, y + off, 22),
    ),
  );
  return [thing(id, label, "solid", box(40, 54, 14), "#6d4c31", at(10, y, 7)), ...seedlings];
}

/** A beam of the house, between two places of its picture. */
function beam(id: string, fromY: number, fromZ: number, toY: number, toZ: number): Thing {
  const length = Math.hypot(toY - fromY, toZ - fromZ);
  const rollDeg = (-Math.atan2(toY - fromY, toZ - fromZ) * 180) / Math.PI;
  const place = at(-100, (fromY + toY) / 2, (fromZ + toZ) / 2, [Math.round(rollDeg * 1000) / 1000 + 0, 0, 0]);
  return thing(id, "Beam of the house", "seen", rod(3, Math.round(length * 10) / 10), "#46605f", place);
}

const eaves = apex.z - 134;
export const demoThings: readonly Thing[] = [
  ...tray("tray-left", "Left tray", -285),
  ...tray("tray-middle", "Middle tray", -62),
  ...tray("tray-right", "Right tray", 20),
  beam("roof-left", apex.y - 332, eaves, apex.y, apex.z),
  beam("roof-right", apex.y, apex.z, apex.y + 332, eaves),
  beam("wall-left", apex.y - 240, 0, apex.y - 240, eaves + 37),
  beam("wall-middle", apex.y, 0, apex.y, apex.z),
  beam("wall-right", apex.y + 240, 0, apex.y + 240, eaves + 37),
  beam("rail", apex.y - 332, 118, apex.y + 332, 118),
];
