import type { Project } from "@core/project";
import { jointBenchOf } from "@core/rig";
import { paginate } from "./paginate";

/** What lies under a servo's horn: where its limits and its home are about the shaft, clockwise from its home, seen from above. */
export interface HornDrawing {
  readonly joint: string;
  readonly servo: string;
  readonly lowDeg: number;
  readonly highDeg: number;
  readonly low: string;
  readonly home: string;
  readonly high: string;
  readonly teeth: number;
}

/** Horn templates, true to scale. */
export interface HornsPage {
  readonly kind: "horns";
  readonly horns: readonly HornDrawing[];
}

/** Two stand in a row. */
export const hornRowMm = 92;
export const hornsInRow = 2;

const short = (value: number) => `${String(Number(value.toFixed(1))).replace("-", "−")}°`;

export function hornPages(project: Project, room: number): readonly HornsPage[] {
  const horns = project.joints.flatMap((joint) => {
    const { card, map } = jointBenchOf(project, joint);
    if (joint.axis.kind !== "angle") return [];
    const { direction } = joint.axis;
    return [
      {
        joint: joint.label,
        servo: card.label,
        // Looking down on the shaft the servo's own angle grows clockwise; a joint that is turned round goes against it.
        lowDeg: direction * (map.lowTarget - map.homeTarget),
        highDeg: direction * (map.highTarget - map.homeTarget),
        low: short(map.lowTarget),
        home: short(map.homeTarget),
        high: short(map.highTarget),
        teeth: card.splineTeeth,
      },
    ];
  });
  const rows = Array.from({ length: Math.ceil(horns.length / hornsInRow) }, (_, at) =>
    horns.slice(at * hornsInRow, (at + 1) * hornsInRow),
  );
  // The rule that proves the scale stands under the last row.
  return paginate(rows, () => hornRowMm, room - 14).map((some) => ({ kind: "horns", horns: some.flat() }));
}
