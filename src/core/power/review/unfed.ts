import { type Run, servoCable } from "@core/project";
import { placeLabel, supplyBefore } from "../net";
import type { Fed, Look } from "./look";
import type { Concern, Rule, WayOut } from "./rule";

/** A servo that no supply reaches. */
export const unfed: Rule = {
  name: "Fed at all",
  why: "A servo without a supply is limp, whatever its signal says.",
  find: (look) => {
    const { net, servos } = look;
    return servos.flatMap((servo): Concern[] => {
      if (net.isFed[servo.at]) return [];
      const run = net.runs[servo.at];
      const hangsOn = run ? `hangs on ${placeLabel(look.project, run.from)}, which nothing feeds` : "is fed by nothing";
      return [
        {
          weight: "fails",
          about: { kind: "joint", id: servo.joint.id },
          sentence: `${servo.joint.label} ${hangsOn}.`,
          advice: look.project.supplies.length === 0 ? "Put a supply on the bench first." : null,
          waysOut: run ? [] : feedFrom(look, servo),
        },
      ];
    });
  },
};

/** A cable from the place that feeds its board's other servos, or from any whose voltage its card allows. */
function feedFrom({ project, net, servos, all }: Look, { joint, card }: Fed): WayOut[] {
  const { volts } = all("standing", 1);
  const fits = (at: number) => {
    const given = volts[at] as number;
    const { supplyVolts, atVolts } = card.rating;
    const [low, high] = supplyVolts ? [supplyVolts.low, supplyVolts.high] : [0.85 * atVolts, 1.25 * atVolts];
    return given >= low && given <= high;
  };
  const numbersOf = (kind: "rail" | "supply") => net.places.flatMap((place, at) => (place.kind === kind ? [at] : []));
  const neighbour = servos.find((one) => one.joint.boardId === joint.boardId && net.isFed[one.at])?.at ?? -1;
  const candidates = [
    neighbour < 0 ? -1 : (net.parents[neighbour] as number),
    ...numbersOf("rail"),
    ...numbersOf("supply"),
  ];
  const found = candidates.find((at) => at >= 0 && net.isFed[at] === 1 && fits(at));
  const place = found === undefined ? undefined : net.places[found];
  if (!place || (place.kind !== "rail" && place.kind !== "supply")) return [];
  const run: Run = {
    ...servoCable,
    id: `run-${joint.id}`.slice(0, 64),
    from: { kind: place.kind, id: place.id },
    to: { kind: "joint", id: joint.id },
  };
  return [{ words: `Feed it from ${placeLabel(project, place)}`, wiring: { runs: [run] } }];
}

/** The supply that feeds a servo, however far up; null for none. */
export const supplyOf = ({ net }: Look, { at }: Fed) => supplyBefore(net, at);
