import { type Run, type Supply, usualCable } from "@core/project";
import type { Fed, Look } from "./look";
import { type Concern, few, limitForA, type Rule, volts, type WayOut } from "./rule";
import { supplyOf } from "./unfed";

/** Servos over or under the voltage that their cards allow. */
export const voltage: Rule = {
  name: "Voltage",
  why: "Above its voltage a servo's motor and driver burn; below it the servo is weak, and its logic may start anew. A battery is looked at full and empty.",
  find: (look) => {
    const groups = new Map<string, { supply: Supply; isOver: boolean; servos: Fed[] }>();
    for (const servo of look.servos) {
      const supply = supplyOf(look, servo);
      const { supplyVolts } = servo.card.rating;
      if (!supply || !supplyVolts || !look.net.isFed[servo.at]) continue;
      const most = look.all("standing", 1).volts[servo.at] as number;
      const least = look.all("standing", 0).volts[servo.at] as number;
      const isOver = most > supplyVolts.high + 0.005;
      if (!isOver && least >= supplyVolts.low - 0.005) continue;
      const key = `${supply.id} ${isOver}`;
      const group = groups.get(key) ?? { supply, isOver, servos: [] };
      group.servos.push(servo);
      groups.set(key, group);
    }
    return [...groups.values()].map(({ supply, isOver, servos }): Concern => {
      const { volts: at } = look.all("standing", isOver ? 1 : 0);
      const reaches = servos.map((servo) => at[servo.at] as number);
      const worst = isOver ? Math.max(...reaches) : Math.min(...reaches);
      const allowed = isOver
        ? Math.min(...servos.map(({ card }) => card.rating.supplyVolts?.high ?? worst))
        : Math.max(...servos.map(({ card }) => card.rating.supplyVolts?.low ?? worst));
      const charge = supply.gives.kind === "battery" ? (isOver ? ", full" : ", empty") : "";
      return {
        weight: isOver ? "harm" : "fails",
        about: { kind: "supply", id: supply.id },
        sentence: `${few(servos.map(({ joint }) => joint.label))} ${servos.length > 1 ? "get" : "gets"} ${volts(worst)} from ${supply.label}${charge}; the ${servos.length > 1 ? "cards allow" : "card allows"} ${isOver ? "at most" : "no less than"} ${volts(allowed)}.`,
        advice: isOver ? null : "A cell more, or a regulator that also raises, is needed.",
        waysOut: waysTo(look, supply, isOver, allowed),
      };
    });
  },
};

function waysTo(look: Look, supply: Supply, isOver: boolean, allowed: number): WayOut[] {
  const { gives } = supply;
  // What can be turned is turned, if all that it feeds allow it.
  const mine = look.servos.filter((servo) => supplyOf(look, servo)?.id === supply.id);
  const low = Math.max(0.5, ...mine.map(({ card }) => card.rating.supplyVolts?.low ?? 0));
  const high = Math.min(60, ...mine.map(({ card }) => card.rating.supplyVolts?.high ?? 60));
  const suits = Math.round(Math.min(high, Math.max(low, (low + high) / 2)) * 10) / 10;
  if ((gives.kind === "bench" || gives.kind === "regulator") && low <= high && suits >= low && suits <= high)
    return [
      {
        words: `Set ${supply.label} to ${volts(suits)}`,
        wiring: { supplies: [{ ...supply, gives: { ...gives, volts: suits } }] },
      },
    ];
  return isOver ? regulatorBetween(look, supply, allowed, mine) : [];
}

/** A regulator between a supply and all that hangs on it. */
function regulatorBetween(
  { project, all, net }: Look,
  supply: Supply,
  allowed: number,
  mine: readonly Fed[],
): WayOut[] {
  const id = `regulator-${supply.id}`.slice(0, 64);
  if (project.supplies.some((one) => one.id === id)) return [];
  const moved = project.runs.filter(({ from }) => from.kind === "supply" && from.id === supply.id);
  const at = net.places.findIndex((place) => place.kind === "supply" && place.id === supply.id);
  const needA = all("moving", 1, false).givenA[at] as number;
  const regulator: Supply = {
    id,
    label: `Regulator behind ${supply.label}`.slice(0, 80),
    limitMa: limitForA(needA),
    gives: { kind: "regulator", works: "switching", volts: allowed, headroomVolts: 1, efficiency: 0.9 },
  };
  const into: Run = {
    ...usualCable,
    id: `run-${id}`.slice(0, 64),
    lengthMm: 150,
    from: { kind: "supply", id: supply.id },
    to: { kind: "supply", id },
  };
  const runs = moved.map((run): Run => ({ ...run, from: { kind: "supply", id } }));
  return [
    {
      words: `A regulator of ${volts(allowed)} between, for ${mine.length} ${mine.length === 1 ? "servo" : "servos"}`,
      wiring: { supplies: [regulator], runs: [into, ...runs] },
    },
  ];
}
