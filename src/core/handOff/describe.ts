import type { Machine } from "./machine";

/** A file that is handed off. */
export interface HandedFile {
  readonly name: string;
  readonly text: string;
}

const plural = (count: number, what: string) => `${count} ${what}${count === 1 ? "" : "s"}`;

/** What the file is, in one line. */
export const titleOf = ({ label, joints, poses, routines }: Machine): string =>
  `${label}: ${plural(joints.length, "joint")}, ${plural(poses.length, "pose")}, ${plural(routines.length, "routine")}`;

/** How the boards make their signals, line by line: for whoever sets up the timers. */
export const boardComments = ({ boards }: Machine): readonly string[] =>
  boards.flatMap(({ label, kind, working, isBus }, at) => [
    `Board ${at}, ${label}: ${kind}.${isBus ? "" : " For a pulse of 1500 us:"}`,
    ...working.map((line) => `  ${line.replaceAll("µs", "us").replaceAll("×", "*").replaceAll("−", "-")}`),
  ]);

/** The waits of all routines in words, in the order of their numbers. */
export const waitsOf = ({ routines }: Machine): readonly string[] =>
  routines.flatMap(({ label, steps }) =>
    steps.flatMap((step) => (step.kind === "wait" ? [`${label}: ${step.words}`] : [])),
  );

/**
 * A label as a comment may hold it: on one line, without what is not seen. Signs that turn the direction of writing would let code look other than it is; compilers
 * warn of them.
 */
export const commentOf = (text: string): string => text.replace(/[\p{Cc}\p{Cf}\u2028\u2029]+/gu, " ");
