import type { OwnLines } from "@core/project";
import { ok, problem, type Result } from "@core/result";

/** What a person's own lines can name, each in braces: `{channel}`. */
export const places = {
  board: "the number of its board, from 0",
  channel: "the channel's number",
  count: "the whole number that the board takes",
  value: "what its call takes: the count, or per cent, or µs",
  pulse_us: "the pulse in µs, as the board makes it of the count",
  target: "the joint's angle in degrees, or its spin from -1 to 1",
  fraction: "the target as a share of the joint's travel, 0 to 1",
  duty: "the share of the frame that the pin is high, 0 to 1",
} as const;
export type Place = keyof typeof places;

const placePattern = /\{([a-z_]*)\}/g;

/** The places that a line names. */
export const placesIn = (line: string): readonly Place[] =>
  [...new Set([...line.matchAll(placePattern)].map(([, name]) => name as Place))].filter((name) => name in places);

/** Whether the lines can be used for joints on these boards, or a sentence on what is wrong with them. */
export function checkLines({ set, off }: OwnLines, boards: readonly string[] = []): Result<null> {
  for (const [line, what] of [
    [set, "sets a pin"],
    [off, "lets a pin go"],
  ] as const) {
    const unknown = [...line.matchAll(placePattern)].map(([, name]) => name ?? "").find((name) => !(name in places));
    if (unknown !== undefined)
      return problem(
        `The line that ${what} names {${unknown}}. There are ${Object.keys(places)
          .map((name) => `{${name}}`)
          .join(", ")}.`,
      );
    if (line.trim() !== "" && !placesIn(line).includes("channel"))
      return problem(`The line that ${what} does not say which: put {channel} where the channel's number goes.`);
  }
  const needsBoard =
    boards.length > 1 && [set, off].some((line) => line.trim() !== "" && !placesIn(line).includes("board"));
  if (needsBoard)
    return problem(
      `These joints are on ${boards.length} boards (${boards.join(", ")}): say which in both lines with {board}, or leave the joints of all but one out.`,
    );
  if (set.trim() === "")
    return problem("Without a line that sets a pin, nothing is driven. Write the one of your platform.");
  if (placesIn(set).every((name) => name === "channel" || name === "board"))
    return problem("The line that sets a pin does not say to what: put {count}, {pulse_us} or another place in it.");
  return ok(null);
}

/** A line with its places filled in. */
export const filled = (line: string, expressions: Readonly<Record<Place, string>>): string =>
  line.replace(placePattern, (whole, name: string) => expressions[name as Place] ?? whole);
