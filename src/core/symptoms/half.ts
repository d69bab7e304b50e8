import { figure } from "@core/numbers";
import { type JointBench, travelLeft } from "@core/rig";
import { calibrationInForce } from "@core/servo";
import { leadLabel, leadsTo, reachOf, setPoints } from "./known";
import { type Clue, hasAngles, inChain, maybe, type Symptom, so } from "./symptom";

/** Less than this share of a travel is worth a word. */
const whole = 0.8;
const percent = (share: number) => `${Math.round(share * 100)} %`;

export const half: Symptom = {
  says: "It turns only half-way",
  alike: "too little half range travel not far enough 90 180 stops short part of the way",
  onlyOf: hasAngles,
  clues: ({ project, bench }) => {
    const { joint, card, map } = bench;
    const spanDeg = map.highTarget - map.lowTarget;
    const short = leadsTo(project, joint.id).flatMap((lead): Clue[] => {
      const reach = reachOf(project, lead);
      if (!reach) return [];
      const low = Math.max(reach.low, map.lowTarget);
      const high = Math.min(reach.high, map.highTarget);
      if (high - low >= whole * spanDeg) return [];
      return [
        inChain(
          lead.id,
          true,
          `${leadLabel(project, lead)} asks for no more than ${figure(reach.low, 1)}° to ${figure(reach.high, 1)}° of ${figure(map.lowTarget, 1)}° to ${figure(map.highTarget, 1)}°.`,
        ),
      ];
    });
    return [
      ...limitClues(bench),
      ...sheetClues(bench),
      ...short,
      maybe(
        "angles",
        card.kind === "positional"
          ? "It may be one for less: servos for 90°, 120°, 180° and 270° look alike. Two angles off a protractor tell."
          : "Its gears may turn the horn by less than its numbers say: two angles off a protractor tell.",
      ),
    ];
  },
};

/** What its travel limits and its hard window take away. */
function limitClues(bench: JointBench): readonly Clue[] {
  const { joint, card, map } = bench;
  const left = joint.axis.kind === "angle" ? travelLeft(joint.axis, card, map) : null;
  if (!left) return [];
  const by = left.isMeasured ? "was found to turn" : "is said to turn";
  const clues: Clue[] = [];
  if (left.share < whole)
    clues.push(
      so(
        "limits",
        `Its travel limits, ${figure(map.lowTarget, 1)}° to ${figure(map.highTarget, 1)}°, leave ${percent(left.share)} of what it ${by}.`,
      ),
    );
  const { low, high } = card.window;
  const [a, b] = [map.toTarget(low), map.toTarget(high)];
  const inWindow =
    (Math.min(left.highStopDeg, Math.max(a, b)) - Math.max(left.lowStopDeg, Math.min(a, b))) /
    (left.highStopDeg - left.lowStopDeg);
  if (inWindow < whole)
    clues.push(
      so(
        "stops",
        `Its hard window, ${setPoints(bench, low, high)}, leaves ${percent(Math.max(0, inWindow))} of what it ${by}.`,
      ),
    );
  return clues;
}

/** What nobody has measured yet. */
function sheetClues(bench: JointBench): readonly Clue[] {
  const { card } = bench;
  if (card.kind === "continuous") return [];
  const { low, high } = card.endStops;
  const isKnown = low !== null && high !== null;
  if (calibrationInForce(card))
    return isKnown
      ? []
      : [maybe("stops", "Where it really stops nobody has looked: it may turn further than its window lets it.")];
  const sheet = setPoints(bench, card.nominal.low, card.nominal.high);
  const isNarrow = card.kind === "positional" && card.travelDeg >= 150 && card.nominal.high - card.nominal.low <= 1300;
  return [
    so(
      isKnown ? "angles" : "stops",
      isNarrow
        ? `It is driven by its data sheet: ${sheet} for ${figure(card.travelDeg, 0)}°. Many servos need 500 to 2500 µs for that, and turn about half-way between 1000 and 2000.`
        : `It is driven by its data sheet: ${sheet} for ${figure(card.travelDeg, 0)}°. Nobody has looked whether this one does that.`,
    ),
  ];
}
