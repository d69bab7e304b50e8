import { demoProject } from "@core/demo";
import { writeProjectFile } from "@core/files";

// biome-ignore lint/suspicious/noExplicitAny: a file of then has no type of today.
type Loose = any;

/** Where a line came from stood in its source's label; what gives a source its numbers was called its device. */
export const sourceOfVersion5 = ({ origin, ...source }: Loose): Loose => {
  const { boardId: _, ...device } = origin;
  return { ...source, device };
};

/** The demo's file as version 4 wrote it: smart servos in the ticks of then, one of them calibrated and checked. */
export const fileOfVersion4 = (): Loose => {
  const file = JSON.parse(writeProjectFile(demoProject()));
  file.version = 4;
  file.project.sources = file.project.sources.map(sourceOfVersion5);
  for (const board of file.project.boards)
    if (board.id === "ivy") board.encoding = { kind: "bus", highestTick: 4000, bitsPerS: 115_200 };
  for (const [cardId, ticks, spanDeg] of [
    ["card-turntable", 4096, 360],
    ["card-shoulder", 1024, 300],
    ["card-elbow", 1024, 300],
  ] as const) {
    const card = file.project.cards.find((one: Loose) => one.id === cardId);
    const perDeg = ticks / spanDeg;
    Object.assign(card, {
      window: { low: 0, high: ticks - 1 },
      nominal: { low: 0, high: ticks },
      deadband: 1,
      travelDeg: spanDeg,
    });
    const truth = file.project.simulated.find((one: Loose) => one.cardId === cardId);
    Object.assign(truth, { centre: ticks / 2, midDeg: spanDeg / 2, startDeg: spanDeg / 2, perDeg, deadband: 1 });
    truth.feedback = { atZeroDeg: 0, perDeg, noise: 0.4 };
    const joint = file.project.joints.find((one: Loose) => one.cardId === cardId);
    joint.axis.zeroDeg = spanDeg / 2;
  }
  const elbow = file.project.cards.find((one: Loose) => one.id === "card-elbow");
  const points = [
    { angleDeg: 60, setPoint: 212 },
    { angleDeg: 150, setPoint: 512 },
    { angleDeg: 240, setPoint: 832 },
  ];
  elbow.calibrations = [{ kind: "piecewise", id: "c", madeAt: "2026-11-01T10:00:00.000Z", note: "", points }];
  elbow.checks = [
    {
      id: "k",
      madeAt: "2026-11-02T10:00:00.000Z",
      calibrationId: "c",
      readings: [{ setPoint: 612, cameFrom: "below", seenDeg: 178 }],
    },
  ];
  elbow.endStops = { low: 12, high: null };
  return file;
};
