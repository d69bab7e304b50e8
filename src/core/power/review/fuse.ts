import type { Run } from "@core/project";
import { innerOhm } from "../cells";
import { mayCarryA } from "../conductor";
import { soldFusesMa } from "../fuses";
import { placeLabel, sourceOf, supplyBefore } from "../net";
import type { Look } from "./look";
import { amps, type Concern, type Rule } from "./rule";

/** So much of its rating a fuse must be given to blow within the hour. */
const blowsShare = 1.35;

/** Fuses that are missing, too large for their wire, too small for their load, or that can never blow. */
export const fuse: Rule = {
  name: "Fuses",
  why: "In a short circuit a supply gives all it can. Where that is more than a wire may carry, only a fuse keeps the wire from burning; and a fuse that the supply cannot blow is none.",
  find: (look) =>
    look.net.places.flatMap((_, at): Concern[] => {
      const run = look.net.runs[at];
      // What hangs on a rail is behind the fuse of the rail's own wire.
      if (run?.from.kind !== "supply" || !look.net.isFed[at]) return [];
      const concern = concernOf(look, run, at);
      return concern ? [{ weight: "harm", about: { kind: "run", id: run.id }, advice: null, ...concern }] : [];
    }),
};

function concernOf(
  look: Look,
  run: Run,
  at: number,
): (Pick<Concern, "sentence" | "waysOut"> & Partial<Concern>) | null {
  const { project, net } = look;
  const supply = supplyBefore(net, at);
  if (!supply) return null;
  const carriesA = mayCarryA(run.areaMm2);
  const { gives } = supply;
  const shortA =
    gives.kind === "battery" ? sourceOf(supply, 1).volts / Math.max(innerOhm(gives), 0.001) : supply.limitMa / 1000;
  const turningA = look.all("moving", 1, false).amps[at] as number;
  const where = `from ${supply.label} to ${placeLabel(project, run.to)}`;
  const fits = soldFusesMa.findLast((ma) => ma <= carriesA * 1000 && ma * blowsShare <= shortA * 1000);
  const carries = fits !== undefined && fits >= turningA * 1000;
  const withFuse = (words: string) =>
    fits === undefined || !carries
      ? []
      : [
          {
            words: `${words} ${amps(fits / 1000)}, slow`,
            wiring: { runs: [{ ...run, fuse: { ratedMa: fits, blows: "slow" as const } }] },
          },
        ];
  if (!run.fuse) {
    if (shortA <= carriesA * blowsShare) return null;
    return {
      sentence: `No fuse ${where}: in a short circuit it gives ${amps(shortA)}, and the wire may carry ${amps(carriesA)}.`,
      waysOut: withFuse("A fuse of"),
      advice: carries ? null : "A thicker wire is needed first: a fuse that spares this one would blow in use.",
    };
  }
  const ratedA = run.fuse.ratedMa / 1000;
  if (ratedA > carriesA * 1.1)
    return {
      sentence: `The fuse of ${amps(ratedA)} ${where} is larger than what its wire may carry, ${amps(carriesA)}: the wire would blow first.`,
      waysOut: withFuse("A fuse of"),
    };
  if (ratedA < turningA)
    return {
      weight: "fails",
      sentence: `The fuse of ${amps(ratedA)} ${where} blows in use: all servos turning take ${amps(turningA)}.`,
      waysOut: withFuse("A fuse of"),
    };
  if (ratedA * blowsShare > shortA)
    return {
      weight: "mind",
      sentence: `The fuse of ${amps(ratedA)} ${where} never blows: ${supply.label} gives no more than ${amps(shortA)}.`,
      waysOut: [...withFuse("A fuse of"), { words: "Leave it out", wiring: { runs: [{ ...run, fuse: null }] } }],
    };
  return null;
}
