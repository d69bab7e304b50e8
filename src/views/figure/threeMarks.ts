import { partFrame, type Standing, stand, standing } from "@core/figure";
import { BufferAttribute, BufferGeometry, Color, LineBasicMaterial, LineSegments, Points, PointsMaterial } from "three";
import type { Scene } from "./useScene";

/** The travel of a joint, as an arc about its axle: from the one limit to the other. */
export function travelArc({ assembly, joints }: Scene, now: Standing, jointId: string): LineSegments | null {
  const joint = joints.findIndex(({ id }) => id === jointId);
  const axis = joints[joint]?.axis;
  const place = assembly.movers.indexOf(joint);
  const part = assembly.parts[place];
  if (joint < 0 || axis?.kind !== "angle" || part?.motion.kind !== "turn") return null;
  const trial = standing(assembly);
  trial.targets.set(now.targets);
  const ends: number[] = [];
  const radiusMm = 70;
  const centre = [...(assembly.axes[place] as readonly number[])];
  // A direction across the axle: where what hangs on it leads, or any.
  const across = Math.abs(centre[2] as number) > 0.9 ? [radiusMm, 0, 0] : [0, 0, radiusMm];
  let last: number[] | null = null;
  for (let step = 0; step <= 48; step += 1) {
    trial.targets[joint] = axis.travel.low + ((axis.travel.high - axis.travel.low) * step) / 48;
    stand(trial);
    const at = partFrame(place);
    const point = [0, 1, 2].map((row) =>
      across.reduce(
        (sum, value, column) => sum + value * (trial.frames[at + 3 * row + column] as number),
        trial.frames[at + 9 + row] as number,
      ),
    );
    if (last) ends.push(...last, ...point);
    else ends.push(...[9, 10, 11].map((row) => trial.frames[at + row] as number), ...point);
    last = point;
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(Float32Array.from(ends), 3));
  const line = new LineSegments(geometry, new LineBasicMaterial({ color: "#b5761a", depthTest: false }));
  line.renderOrder = 4;
  return line;
}

/** Where a tip can be: pale where it can hardly be moved on, strong where it goes any way. */
export function cloudOf(places: Float32Array, worth: Float32Array, cubeMm: number): Points {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(places, 3));
  // The very best are few: beside them all else would look alike.
  const sorted = worth.filter(Number.isFinite).sort();
  const most = Math.max(1e-6, sorted[Math.floor(sorted.length * 0.85)] ?? 0);
  const [poor, good] = [new Color("#a5432f"), new Color("#3f8f5a")];
  const colors = new Float32Array(places.length);
  worth.forEach((value, at) => {
    poor
      .clone()
      .lerp(good, Math.sqrt(Math.min(1, value / most)))
      .toArray(colors, 3 * at);
  });
  geometry.setAttribute("color", new BufferAttribute(colors, 3));
  return new Points(
    geometry,
    new PointsMaterial({ size: cubeMm * 0.55, vertexColors: true, transparent: true, opacity: 0.75 }),
  );
}
