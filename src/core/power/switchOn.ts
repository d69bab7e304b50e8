import { byId, type Project } from "@core/project";
import { drawOf } from "./draw";
import { netOf, type Place, placeLabel, sourceOf } from "./net";
import { lookAt } from "./review/look";
import { amps, volts } from "./review/rule";

/** One line of the check before and while a machine is switched on. */
export interface SwitchOnLine {
  /** Stays the same while what it is about is on the bench. */
  readonly id: string;
  readonly does: string;
  readonly see: string;
}

/**
 * The order in which a machine is connected for the first time, so that whatever is wrong harms the least: grounds, then each supply alone, rails, regulators, boards, and
 * at last one servo after another.
 */
export function switchOnLines(project: Project): readonly SwitchOnLine[] {
  const net = netOf(project);
  const look = lookAt(project);
  const idle = look.all("standing", 1);
  const name = (place: Place) => placeLabel(project, place);
  const here = net.places.flatMap((place, at) => (net.isFed[at] ? [{ place, at }] : []));
  const fed = (kind: Place["kind"]) => here.filter(({ place }) => place.kind === kind);
  const lines: SwitchOnLine[] = [
    {
      id: "before",
      does: "Everything is off and unplugged: supplies, boards, servos.",
      see: "With a meter between supply and ground of each rail: no short circuit, more than a few ohms.",
    },
    {
      id: "grounds",
      does: "Connect the grounds of all rails and boards.",
      see: `Less than 1 Ω between any two of them${project.boards.length > 0 ? `, ${project.boards.map(({ label }) => label).join(", ")} included` : ""}.`,
    },
  ];
  for (const { place } of fed("supply")) {
    if (place.kind !== "supply" || place.supply.gives.kind === "regulator" || place.supply.gives.kind === "pin")
      continue;
    const { supply } = place;
    const open = sourceOf(supply, 1).volts;
    lines.push({
      id: `supply:${supply.id}`,
      does: `Switch on ${supply.label}, with nothing connected to it${supply.gives.kind === "bench" ? "; set its limit to 0.5 A for now" : ""}.`,
      see: `${volts(open * 0.95)} to ${volts(open * 1.05)}, and the red lead of the meter is on its supply side.`,
    });
  }
  // Each behind what feeds it: a rail may stand behind a regulator, and that behind another rail.
  for (const { place, at } of here) {
    const see = `${volts(idle.volts[at] as number)} `;
    if (place.kind === "rail")
      lines.push({
        id: `rail:${place.id}`,
        does: `Connect ${name(place)}, with nothing plugged into it.`,
        see: `${see}between its supply and its ground.`,
      });
    if (place.kind === "supply" && place.supply.gives.kind === "regulator")
      lines.push({
        id: `regulator:${place.id}`,
        does: `Connect ${name(place)} to what feeds it, with nothing behind it; turn its screw if it has one.`,
        see: `${see}at its output.`,
      });
  }
  for (const { place, at } of fed("board"))
    lines.push({
      id: `board:${place.id}`,
      does: `Plug in ${name(place)}, without a servo on it.`,
      see: `${volts(idle.volts[at] as number)} reach it, nothing gets warm, and the top line says that it answers.`,
    });
  for (const { place, at } of fed("joint")) {
    const joint = byId(project.joints, place.id);
    const card = byId(project.cards, joint.cardId);
    const draw = drawOf(card);
    const { wires } = card;
    lines.push({
      id: `joint:${place.id}`,
      does: `Plug in ${joint.label}: ${wires.ground || "the darkest"} is ground, ${wires.supply || "the middle one"} supply, ${wires.signal || "the light one"} signal. Hold it, and jog it a little.`,
      see: `It follows without a hum; ${amps(draw.idleA)} at rest, about ${amps(draw.movingA)} as it turns, and ${volts(idle.volts[at] as number)} reach it.`,
    });
  }
  lines.push({
    id: "together",
    does: "Hold all, and go to a pose in which all turn.",
    see: "No board starts anew, and nothing is hot after a minute.",
  });
  return lines;
}
