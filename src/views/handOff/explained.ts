/** A part of a file, and the line at which it begins. */
export interface Section {
  readonly title: string;
  readonly line: number;
}

const headPattern = /^\s*(?:\/\*|#) ---- (.+?)[.:]? ----/;

/** The parts that a file is divided into by its own headings. */
export const sectionsOf = (lines: readonly string[]): readonly Section[] =>
  lines.flatMap((line, at) => {
    const [, title] = headPattern.exec(line) ?? [];
    return title ? [{ title: title.replace(/[:,] .*$/, ""), line: at }] : [];
  });

const words: readonly (readonly [RegExp, string])[] = [
  [
    /^The joints/,
    "Limits, home, direction, curve and the board's own rounding of each joint. These are the numbers to change at the machine; what follows from them is worked out at the start.",
  ],
  [
    /^The poses/,
    "A target for each joint, in the order of the joints. A routine refers to poses: change one here, and every step that goes there follows.",
  ],
  [
    /^The routines/,
    "Steps, one after the other: which pose, in how many ms, how long it stands there, how much later each joint starts than the one before it, and how the move runs.",
  ],
  [
    /^Your own lines/,
    "What you wrote at the left, with its places filled in. Nothing else in this file touches your platform.",
  ],
  [
    /^From targets to counts/,
    "The sums of the bench in the same order, so that they round alike: target, servo angle, pulse, count.",
  ],
  [
    /^The gate/,
    "Whatever asks for a target passes here: travel limits, speed limit, hard window, and the count that lies inside of it.",
  ],
  [
    /^What moves by itself/,
    "Poses and routines. Before a routine begins, its joints are brought to its beginning, softly, all in the same time.",
  ],
  [
    /^Leads/,
    "What was read, on its way to joints: each lead's stages in their order, as on the bench. Who moves last has a joint; what goes on by itself takes only what nobody has.",
  ],
  [
    /^Who has a joint/,
    "Hands, leads and what plays take joints from each other. A joint goes over softly, for as long as its card on the bench says.",
  ],
  [
    /^The packets of smart servos/,
    "The very bytes that switch each smart servo on and off, and as comments those of its modes.",
  ],
  [
    /^Goals, sent by packets/,
    "A builder made from the family's layout: header, length, check. All goals of a frame go together where the family can.",
  ],
  [/^What is called/, "What your program calls. Nothing here waits: call tick as often as you like."],
];

/** What a line is about, in a sentence or two. */
export function explained(lines: readonly string[], sections: readonly Section[], line: number): string {
  const section = sections.findLast((one) => one.line <= line);
  const about = words.find(([title]) => section && title.test(section.title))?.[1];
  if (about) return about;
  return lines[line]?.includes("FRAME_MS")
    ? "How often a frame leaves: as often as the quickest of the boards makes one."
    : "What the file holds, and what your program can call. Point at a line to read what it is about.";
}
