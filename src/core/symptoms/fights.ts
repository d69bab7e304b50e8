import { leadLabel, leadsTo } from "./known";
import { inChain, maybe, type Symptom } from "./symptom";

export const fights: Symptom = {
  says: "Something else moves it",
  alike: "fights by itself jumps back two inputs conflict who has it control moves alone",
  clues: ({ project, bench }) => {
    const { joint } = bench;
    const playing = project.routines.filter(({ steps }) => steps.length > 0);
    return [
      ...leadsTo(project, joint.id).map((lead) => inChain(lead.id, true, `${leadLabel(project, lead)} leads it.`)),
      maybe(
        "control",
        "Blends, tips of a figure, pads and messages can move it too: who has it now, and who may take it, stands here.",
      ),
      ...(playing.length > 0 ? [maybe("routine", "A routine that plays moves its joints until it is stopped.")] : []),
    ];
  },
};
