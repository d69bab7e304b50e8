import { type Figure, homeTargetOf, type Joint, type Part } from "@core/project";
import { hullOf, type MeshOf } from "@core/shapes";
import { frameOfPlace, frameSize, joinFrames } from "./frames";
import { linkageJoins } from "./linkage";
import { assemble, partFrame, setTargets, stand, standing } from "./stand";

/** Something that is not finished, or not right, in a sentence. */
export interface Fault {
  readonly partId: string | null;
  readonly sentence: string;
}

/** What is to be said of a figure, its rig's joints standing at home. */
export function faultsOf(figure: Figure, joints: readonly Joint[], meshOf: MeshOf): readonly Fault[] {
  const faults: Fault[] = [];
  const assembly = assemble(
    [figure],
    joints.map(({ id }) => id),
  );
  const now = standing(assembly);
  setTargets(now, Object.fromEntries(joints.map((joint) => [joint.id, homeTargetOf(joint)])));
  stand(now);
  const say = (part: Part, sentence: string) => void faults.push({ partId: part.id, sentence });
  assembly.parts.forEach((part, place) => {
    const { motion } = part;
    if (motion.kind !== "fixed") {
      const verb = motion.kind === "turn" ? "turns" : "slides";
      const { by } = motion;
      if (by.kind === "joint" && by.jointId === null)
        say(part, `${part.label} ${verb}, but no joint moves it. Choose one.`);
      else if (by.kind === "joint" && by.ratio === 0) say(part, `${part.label} has a ratio of 0: it never moves.`);
      else if (
        (assembly.movers[place] as number) >= 0 &&
        assembly.parts.every(({ massG }) => massG === 0) === false &&
        massBelow(assembly.parts, assembly.parents, place) === 0
      )
        say(part, `${part.label} and all that hangs on it weigh nothing: the weights say too little.`);
      if (by.kind === "linkage") {
        const joint = joints[assembly.movers[place] as number];
        const range = joint?.axis.kind === "angle" ? joint.axis.travel : null;
        const parts = range ? [range.low, (range.low + range.high) / 2, range.high] : [0];
        const leader = assembly.parts.findIndex(({ id }) => id === by.partId);
        const isWhole = parts.every((target) => {
          if (joint) setTargets(now, { [joint.id]: target });
          stand(now);
          return linkageJoins(by, now.ways[leader] ?? 0);
        });
        if (!isWhole)
          say(
            part,
            `The bars that turn ${part.label} do not reach each other over all of the travel. Make one longer.`,
          );
      }
    }
    if (part.parentId === null && part.bodies.length > 0) {
      const height = heightOf(part, now.frames, partFrame(place), meshOf);
      const floats = motion.kind === "fixed" && assembly.parents.includes(place) && height > 5;
      if (floats) say(part, `${part.label} hangs on nothing: it floats ${Math.round(height)} mm over the table.`);
      if (height < -1) say(part, `${part.label} goes ${Math.round(-height)} mm into the table.`);
    }
  });
  for (const joint of joints)
    if (joint.rigId === figure.rigId && !assembly.movers.includes(joints.indexOf(joint)))
      faults.push({ partId: null, sentence: `${joint.label} moves no part.` });
  return faults;
}

function massBelow(parts: readonly Part[], parents: Int32Array, place: number): number {
  let sum = parts[place]?.massG ?? 0;
  for (let at = place + 1; at < parts.length; at += 1) if (parents[at] === place) sum += massBelow(parts, parents, at);
  return sum;
}

/** How high the lowest of a part lies over the table, in mm. */
function heightOf(part: Part, frames: Float64Array, at: number, meshOf: MeshOf): number {
  const own = new Float64Array(frameSize);
  const world = new Float64Array(frameSize);
  const lowest = new Float64Array(3);
  let height = Number.POSITIVE_INFINITY;
  for (const { place, shape } of part.bodies) {
    frameOfPlace(place, own);
    joinFrames(frames, at, own, 0, world, 0);
    const hull = hullOf(shape, meshOf);
    const [x, y, z] = [world[6] as number, world[7] as number, world[8] as number];
    hull.support(-x, -y, -z, lowest);
    const down = x * (lowest[0] as number) + y * (lowest[1] as number) + z * (lowest[2] as number);
    height = Math.min(height, (world[11] as number) + down - hull.roundMm);
  }
  return height;
}
