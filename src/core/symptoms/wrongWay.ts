import { leadLabel, leadsTo } from "./known";
import { inChain, maybe, type Symptom } from "./symptom";

export const wrongWay: Symptom = {
  says: "It turns the wrong way",
  alike: "reversed backwards inverted mirror direction left right",
  clues: ({ project, bench }) => [
    maybe(
      "drive",
      "Which way counts up is the joint’s own to say: Reverse direction turns that round. It does not move by that: its pulse stays, and reads the other way.",
    ),
    ...leadsTo(project, bench.joint.id).map((lead) =>
      inChain(
        lead.id,
        false,
        `Only when ${leadLabel(project, lead)} moves it? Then turn its chain round: exchange the two ends that it maps onto.`,
      ),
    ),
  ],
};
