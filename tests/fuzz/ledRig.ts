import { machineOf } from "../../src/core/handOff";
import { newSources } from "../../src/core/inputs";
import { addLeads, asOthers, type Lead, type Project, type Source, type TakeData } from "../../src/core/project";
import { newShaper, type Shaper, type ShaperKind, shaperNames } from "../../src/core/shapers";
import { seededRandom } from "../../src/core/sim";
import { wiredRig } from "./wiredRig";

/** What happens to code and bench alike, before a tick. */
export type Event =
  | { readonly kind: "feed"; readonly source: number; readonly value: number }
  | { readonly kind: "go"; readonly joint: number; readonly target: number }
  | { readonly kind: "play"; readonly routine: number }
  | { readonly kind: "pose"; readonly pose: number; readonly moveMs: number }
  | { readonly kind: "stop" | "release" | "hold" };

/** A made-up rig with leads of all kinds, as far as they can be wired; its project is what can be handed off whole and without reducing anything. */
export function ledRig(seed: number): { readonly project: Project; readonly takes: readonly TakeData[] } {
  const { project: bare, takes } = wiredRig(seed);
  const random = seededRandom(seed + 90_000);
  const one = <Item>(items: readonly Item[]): Item => items[Math.floor(random() * items.length)] as Item;
  const chance = (share: number) => random() < share;
  const within = (low: number, high: number) => low + (high - low) * random();
  let made = 0;
  const newId = () => `led-${++made}`;
  const sources: readonly Source[] = [
    ...newSources("knob", "Knob", newId),
    ...newSources("slider", "int", newId),
    ...newSources("button", "Taster ä", newId),
    ...newSources("toggle", "*/ way", newId),
    ...newSources("encoder", "首", newId),
    ...newSources("line", "Vane", newId),
  ];
  const library = new Map(takes.map((take) => [take.id, take]));
  const routines = bare.routines.filter(({ id }) => {
    const alone = machineOf(bare, { jointIds: [], poseIds: [], routineIds: [id] }, library);
    return (
      alone.ok && alone.value.routines[0]?.tracks.every(({ error, isOfLaterRound }) => error === 0 && !isOfLaterRound)
    );
  });
  const inner = new Set(
    routines.flatMap(({ steps }) => steps.flatMap((step) => (step.kind === "routine" ? [step.routineId] : []))),
  );
  let project: Project = {
    ...bare,
    joints: bare.joints.map((joint) => ({ ...joint, control: { ...joint.control, blendMs: one([0, 250, 500]) } })),
    routines: bare.routines.filter(({ id }) => routines.some((kept) => kept.id === id) || inner.has(id)),
    sources: [...bare.sources, ...sources],
  };
  const kinds = Object.keys(shaperNames) as ShaperKind[];
  const odd = (shaper: Shaper): Shaper => {
    if (shaper.kind === "curve")
      return {
        ...shaper,
        shape: one([
          { kind: "expo", amount: within(-1, 1) },
          { kind: "s", amount: random() },
          {
            kind: "points",
            points: [
              { x: 0, y: 0.1 },
              { x: random() * 0.8 + 0.1, y: random() },
              { x: 1, y: 0.9 },
            ],
          },
        ] as const),
      };
    if (shaper.kind === "limit") return { ...shaper, how: one(["clamp", "wrap"] as const) };
    if (shaper.kind === "combine") return { ...shaper, how: one(["sum", "product", "larger", "mix"] as const) };
    if (shaper.kind === "press") return { ...shaper, which: one(["short", "long"] as const), longMs: 100 };
    if (shaper.kind === "threshold") return { ...shaper, dwellMs: one([0, 60]) };
    return shaper.kind === "latch" ? { ...shaper, holdMs: one([100, 700]) } : shaper;
  };
  for (let tries = 0; tries < 40; tries += 1) {
    const source = one(sources);
    const shapers: Shaper[] = [];
    for (let stage = 0; stage < Math.floor(within(0, 4)); stage += 1) {
      const shaper = newShaper(one(kinds), source.range.low, source.range.high, asOthers(sources));
      if (shaper) shapers.push(odd(shaper));
    }
    const joint = one(project.joints);
    const isAngle = joint.axis.kind === "angle";
    const target: Lead["target"] = chance(0.6)
      ? { kind: "joint", jointId: joint.id }
      : one([
          { kind: "blend", fromPoseId: one(project.poses).id, toPoseId: one(project.poses).id },
          { kind: "action", action: { kind: "goToPose", poseId: one(project.poses).id, moveMs: 300 } },
          { kind: "action", action: { kind: "play", routineId: project.routines[0]?.id ?? "" } },
          { kind: "action", action: { kind: "stop" } },
          { kind: "action", action: { kind: "release" } },
        ] as const);
    const ends =
      target.kind === "joint" && joint.axis.kind === "angle"
        ? joint.axis.travel
        : isAngle
          ? { low: 0, high: 1 }
          : { low: -0.8, high: 0.8 };
    const last: readonly Shaper[] =
      target.kind === "action"
        ? []
        : [{ kind: "rangeMap", from: source.range, to: target.kind === "blend" ? { low: 0, high: 1 } : ends }];
    const lead = { id: newId(), sourceId: source.id, target, shapers: [...shapers, ...last], isMuted: false };
    const added = addLeads([lead]).apply(project);
    if (added.ok && project.leads.length < 6) project = added.value;
  }
  return { project, takes };
}

/** What happens before each of so many ticks: hands on knobs, presses, moves, plays, all in any order. */
export function eventsFor(
  seed: number,
  project: Project,
  sources: readonly { readonly low: number; readonly high: number }[],
  joints: readonly { readonly low: number; readonly high: number }[],
  ticks: number,
): readonly (readonly Event[])[] {
  const random = seededRandom(seed + 5);
  const whole = (below: number) => Math.floor(random() * below);
  const at = sources.map(() => 0.5);
  return Array.from({ length: ticks }, (_, tick): readonly Event[] => {
    if (tick === 0) return [{ kind: "hold" }];
    const events: Event[] = [];
    for (const [source, { low, high }] of sources.entries()) {
      if (random() > 0.25) continue;
      // Knobs wander; now and then one jumps.
      at[source] =
        random() < 0.1 ? random() : Math.min(Math.max((at[source] as number) + (random() - 0.5) * 0.2, 0), 1);
      const value = low + (high - low) * (at[source] as number);
      events.push({ kind: "feed", source, value: Math.round(value * 1000) / 1000 });
    }
    const what = random();
    if (what < 0.02)
      events.push({ kind: "go", joint: whole(joints.length), target: Math.round((random() - 0.5) * 1600) / 10 });
    else if (what < 0.03 && project.routines.length > 0)
      events.push({ kind: "play", routine: whole(project.routines.length) });
    else if (what < 0.04) events.push({ kind: "pose", pose: whole(project.poses.length), moveMs: whole(900) });
    else if (what < 0.045) events.push({ kind: "stop" });
    else if (what < 0.047) events.push({ kind: "release" });
    else if (what < 0.055) events.push({ kind: "hold" });
    return events;
  });
}
