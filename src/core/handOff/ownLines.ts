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
  bytes: "of the line that sends: the packet, byte by byte",
  length: "of the line that sends: how many bytes it has",
} as const;
export type Place = keyof typeof places;

const placePattern = /\{([a-z_]*)\}/g;

/** The places that a line names. */
export const placesIn = (line: string): readonly Place[] =>
  [...new Set([...line.matchAll(placePattern)].map(([, name]) => name as Place))].filter((name) => name in places);

const ofSending: readonly string[] = ["board", "bytes", "length"];
const ofPins: readonly string[] = Object.keys(places).filter((name) => name !== "bytes" && name !== "length");

/** Whether the lines can be used for joints on these boards, or a sentence on what is wrong with them. */
export function checkLines(
  { set, off, send }: OwnLines,
  boards: readonly { readonly label: string; readonly isBus: boolean }[] = [],
): Result<null> {
  const buses = boards.filter(({ isBus }) => isBus);
  const pins = boards.filter(({ isBus }) => !isBus);
  for (const [line, what, known] of [
    [set, "sets a pin", ofPins],
    [off, "lets a pin go", ofPins],
    [send, "sends bytes", ofSending],
  ] as const) {
    const unknown = [...line.matchAll(placePattern)]
      .map(([, name]) => name ?? "")
      .find((name) => !known.includes(name));
    if (unknown !== undefined)
      return problem(
        `The line that ${what} names {${unknown}}. There are ${known.map((name) => `{${name}}`).join(", ")}.`,
      );
  }
  if (pins.length > 0 || boards.length === 0) {
    for (const [line, what] of [
      [set, "sets a pin"],
      [off, "lets a pin go"],
    ] as const)
      if (line.trim() !== "" && !placesIn(line).includes("channel"))
        return problem(`The line that ${what} does not say which: put {channel} where the channel's number goes.`);
    if (pins.length > 1 && [set, off].some((line) => line.trim() !== "" && !placesIn(line).includes("board")))
      return needsBoard(pins, "both lines");
    if (set.trim() === "")
      return problem("Without a line that sets a pin, nothing is driven. Write the one of your platform.");
    if (placesIn(set).every((name) => name === "channel" || name === "board"))
      return problem("The line that sets a pin does not say to what: put {count}, {pulse_us} or another place in it.");
  }
  if (buses.length > 0) {
    if (!placesIn(send).includes("bytes"))
      return problem("Smart servos are told by packets: write the line that sends them, with {bytes} where they go.");
    if (buses.length > 1 && !placesIn(send).includes("board")) return needsBoard(buses, "the line that sends bytes");
  }
  return ok(null);
}

const needsBoard = (boards: readonly { readonly label: string }[], where: string) =>
  problem(
    `These joints are on ${boards.length} boards (${boards.map(({ label }) => label).join(", ")}): say which in ${where} with {board}, or leave the joints of all but one out.`,
  );

/** A line with its places filled in. */
export const filled = (line: string, expressions: Readonly<Record<Place, string>>): string =>
  line.replace(placePattern, (whole, name: string) => expressions[name as Place] ?? whole);
