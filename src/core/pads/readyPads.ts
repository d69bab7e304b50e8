import { type Control, type ControlKind, type ControlOf, usualSpan } from "@core/controls";
import { newSources, plainLead } from "@core/inputs";
import type { Joint, Lead, Pad, Project, Source } from "@core/project";
import { ok, problem, type Result } from "@core/result";

export const readyPadNames = {
  empty: "An empty pad",
  oneJoint: "One joint: slider, and hold",
  threePlaces: "One joint: left, middle, right, and let go",
  stick: "A stick for two joints",
  rig: "A slider for every joint of the rig",
  cues: "Cues of a show: poses and routines",
} as const;
export type ReadyPad = keyof typeof readyPadNames;

/** A pad with the sources and leads that it needs and that are not there yet. */
export interface Readied {
  readonly pad: Pad;
  readonly sources: readonly Source[];
  readonly leads: readonly Lead[];
}

const cuesAtMost = 16;

/**
 * The usual pads, ready laid out for the selected joint and its rig. Where a source that a hand moves leads to a joint already, it is taken; else
 * there is a new one, with a lead over the joint's whole travel.
 */
export function readyPad(ready: ReadyPad, project: Project, joint: Joint | null, newId: () => string): Result<Readied> {
  const sources: Source[] = [];
  const leads: Lead[] = [];
  const done = (label: string, controls: readonly Control[]): Result<Readied> =>
    ok({ pad: { id: newId(), label, controls: [...controls] }, sources, leads });
  const begin = <Kind extends ControlKind>(kind: Kind, rest: Omit<ControlOf<Kind>, "id" | "kind" | "label" | "span">) =>
    ({ id: newId(), kind, label: "", span: usualSpan(kind), ...rest }) as unknown as ControlOf<Kind>;
  const sliderOf = (to: Joint): Source => {
    const there = project.leads.find(
      ({ sourceId, target }) =>
        target.kind === "joint" &&
        target.jointId === to.id &&
        project.sources.some(({ id, origin }) => id === sourceId && origin.kind === "slider"),
    );
    const old = project.sources.find(({ id }) => id === there?.sourceId);
    if (old) return old;
    const [fresh] = newSources("slider", to.label, newId) as [Source];
    sources.push(fresh);
    leads.push(plainLead(fresh, to, newId()));
    return fresh;
  };
  const slider = (to: Joint) => begin("slider", { isHeldToMove: false, sourceId: sliderOf(to).id, lowAt: "bottom" });
  if (ready === "empty") return done("Pad", []);
  if (ready === "cues") {
    const poses = project.poses.slice(0, cuesAtMost).map(({ id }) => begin("pose", { poseId: id, moveMs: 800 }));
    const routines = project.routines.slice(0, cuesAtMost).map(({ id }) => begin("routine", { routineId: id }));
    return poses.length + routines.length === 0
      ? problem("There is no pose and no routine yet. Make one at the stations Poses and Routine.")
      : done("Cues", [...routines, begin("stop", {}), ...poses]);
  }
  if (!joint) return problem("There is no joint yet. Begin with one at the station Signal or Drive.");
  switch (ready) {
    case "oneJoint":
      return done(joint.label, [slider(joint), begin("grip", { jointId: joint.id })]);
    case "threePlaces":
      return done(joint.label, [
        begin("places", {
          isHeldToMove: false,
          sourceId: sliderOf(joint).id,
          places: [
            { label: "Left", share: 0 },
            { label: "Middle", share: 0.5 },
            { label: "Right", share: 1 },
          ],
        }),
        begin("grip", { jointId: joint.id }),
      ]);
    case "rig":
      return done(
        project.rigs.find(({ id }) => id === joint.rigId)?.label ?? "Rig",
        project.joints.filter(({ rigId }) => rigId === joint.rigId).map(slider),
      );
    case "stick": {
      const rig = project.joints.filter(({ rigId }) => rigId === joint.rigId);
      const other = rig[(rig.indexOf(joint) + 1) % rig.length];
      if (!other || other === joint) return problem(`The rig of ${joint.label} has no second joint for a stick.`);
      const [across, up] = newSources("stick", `${joint.label} and ${other.label}`.slice(0, 60), newId) as [
        Source,
        Source,
      ];
      sources.push(across, up);
      leads.push(plainLead(across, joint, newId()), plainLead(up, other, newId()));
      return done("Stick", [begin("stick", { isHeldToMove: false, acrossId: across.id, upId: up.id, springs: true })]);
    }
  }
}
