import type { OriginKind } from "@core/origins";
import { type Joint, jointsMovingTip, type Lead, type Project, type Source } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import type { Shaper } from "@core/shapers";
import { newSources } from "./newSource";
import { tipLead } from "./tipLead";

/** A lead that carries the whole range of a source onto the whole travel of a joint. A switch goes from the one end to the other. */
export function plainLead(source: Source, joint: Joint, id: string): Lead {
  return {
    id,
    sourceId: source.id,
    target: { kind: "joint", jointId: joint.id },
    shapers: [ontoTravel(source, joint)],
    isMuted: false,
  };
}

const ontoTravel = ({ range }: Source, { axis }: Joint): Shaper => ({
  kind: "rangeMap",
  from: range,
  to: axis.kind === "angle" ? axis.travel : { low: -axis.limit, high: axis.limit },
});

/** A ready set of leads, with whatever sources they need that are not there yet. */
export interface Wired {
  readonly sources: readonly Source[];
  readonly leads: readonly Lead[];
}

export const templateNames = {
  knobToAngle: "A knob to an angle",
  stickToPair: "A stick to pan and tilt",
  stickToTip: "A stick to a hand or a look",
  encoderWithStore: "An encoder with store and recall",
  knobAndSwitch: "Knob and switch to a continuous servo",
  sensorOpens: "A sensor opens, and closes later",
} as const;
export type Template = keyof typeof templateNames;

/**
 * The usual jobs, ready wired for the selected joint: with the sources that are there, or new ones. What the joint cannot do is refused with
 * what would be right.
 */
export function fromTemplate(template: Template, project: Project, joint: Joint, newId: () => string): Result<Wired> {
  const isAngle = joint.axis.kind === "angle";
  const made: Source[] = [];
  const have = (kind: OriginKind, label: string): readonly Source[] => {
    const there = project.sources.filter((source) => source.origin.kind === kind);
    if (there.length > 0) return there;
    const fresh = newSources(kind, label, newId);
    made.push(...fresh);
    return fresh;
  };
  const wired = (...leads: Lead[]): Result<Wired> => ok({ sources: made, leads });
  const lead = (source: Source, target: Lead["target"], shapers: readonly Shaper[]): Lead => ({
    id: newId(),
    sourceId: source.id,
    target,
    shapers: [...shapers],
    isMuted: false,
  });
  const toJoint = { kind: "joint", jointId: joint.id } as const;
  const needsAngle = problem(`${joint.label} spins. Select a joint with an angle first.`);

  switch (template) {
    case "knobToAngle": {
      if (!isAngle) return needsAngle;
      const [knob] = have("knob", "Knob");
      return wired(plainLead(knob as Source, joint, newId()));
    }
    case "stickToPair": {
      if (!isAngle) return needsAngle;
      const rig = project.joints.filter((one) => one.rigId === joint.rigId && one.axis.kind === "angle");
      const tilt = rig[(rig.indexOf(joint) + 1) % rig.length];
      if (!tilt || tilt === joint) return problem(`The rig of ${joint.label} has no second joint to tilt.`);
      const axes = have("stick", "Stick");
      const axisOf = (axis: "x" | "y") =>
        axes.find(({ origin }) => origin.kind === "stick" && origin.axis === axis) as Source;
      const onto = (source: Source, to: Joint) =>
        lead(source, { kind: "joint", jointId: to.id }, [calm(source), ontoTravel(source, to)]);
      return wired(onto(axisOf("x"), joint), onto(axisOf("y"), tilt));
    }
    case "stickToTip": {
      const tips = project.figures.flatMap((figure) => figure.tips);
      const tip = tips.find(({ id }) => jointsMovingTip(project, id).includes(joint.id));
      if (!tip)
        return problem(`No tip of a figure is moved by ${joint.label}. Give its figure a tip first, at Figure.`);
      const axes = have("stick", "Stick");
      const axisOf = (axis: "x" | "y") =>
        axes.find(({ origin }) => origin.kind === "stick" && origin.axis === axis) as Source;
      // What reaches is moved over the table, what looks over the wall before it.
      const forth = tip.does === "look" ? "z" : "x";
      return wired(
        tipLead(project, axisOf("x"), tip.id, "y", newId()),
        tipLead(project, axisOf("y"), tip.id, forth, newId()),
      );
    }
    case "encoderWithStore": {
      if (!isAngle) return needsAngle;
      const [encoder] = have("encoder", "Encoder");
      const [button] = have("button", "Encoder press");
      const first = project.poses[0];
      if (!encoder || !button) return problem("There is no encoder.");
      const capture = lead(button, { kind: "action", action: { kind: "capture" } }, [
        { kind: "press", which: "long", longMs: 600 },
      ]);
      const recall = first
        ? [
            lead(button, { kind: "action", action: { kind: "goToPose", poseId: first.id, moveMs: 800 } }, [
              { kind: "press", which: "short", longMs: 600 },
            ]),
          ]
        : [];
      return wired(plainLead(encoder, joint, newId()), capture, ...recall);
    }
    case "knobAndSwitch": {
      if (isAngle) return problem(`${joint.label} has an angle. Select a joint that spins first.`);
      const [knob] = have("knob", "Speed knob");
      const [way] = have("toggle", "Direction");
      if (!knob || !way) return problem("There is no knob.");
      return wired(
        lead(knob, toJoint, [
          { kind: "rangeMap", from: knob.range, to: { low: 0, high: 1 } },
          { kind: "combine", sourceId: way.id, to: { low: -1, high: 1 }, how: "product", share: 0.5 },
        ]),
      );
    }
    case "sensorOpens": {
      if (joint.axis.kind !== "angle") return needsAngle;
      const [sensor] = have("sensor", "Sensor");
      if (!sensor) return problem("There is no sensor.");
      const { low, high } = sensor.range;
      const { travel, speedLimitDegPerS } = joint.axis;
      return wired(
        lead(sensor, toJoint, [
          { kind: "threshold", on: low + 0.65 * (high - low), off: low + 0.45 * (high - low), dwellMs: 300 },
          { kind: "latch", holdMs: 3000 },
          { kind: "rangeMap", from: { low: 0, high: 1 }, to: travel },
          { kind: "rate", perS: Math.min(speedLimitDegPerS ?? 120, 120) },
        ]),
      );
    }
  }
}

/** A small deadband about a stick's middle, where it never quite rests. */
const calm = ({ range }: Source): Shaper => {
  const reach = (range.high - range.low) / 2;
  return { kind: "deadband", centre: (range.low + range.high) / 2, halfWidth: reach * 0.05, reach };
};
