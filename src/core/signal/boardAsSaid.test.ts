import { demoProject } from "@core/demo";
import { comparisonOf, type Greeting } from "@core/link";
import { applyEdit, byId, describeBoard } from "@core/project";
import { expect, test } from "vitest";
import { boardAsSaid, channelGroupsOf, wireTooSlow } from ".";

const fern = byId(demoProject().boards, "fern");
const greeting: Greeting = {
  version: 2,
  name: "Fern",
  countName: "count",
  channels: 16,
  longestLine: 192,
  groups: [
    {
      first: 0,
      last: 15,
      periodNs: 20_000_000,
      lowestCount: 0,
      atLowest: 0,
      highestCount: 20_000,
      atHighest: 20_000_000,
    },
  ],
  driven: [],
};
const isApart = (board: typeof fern, said: Greeting) =>
  comparisonOf({ label: "", countName: "count", channels: board.channels, groups: channelGroupsOf(board) }, said).some(
    (line) => line.isApart,
  );

test("a board of whole microseconds at 50 Hz, where the project has a pulse chip: what it says is taken over, and then fits", () => {
  expect(isApart(fern, greeting)).toBe(true);
  const said = boardAsSaid(fern, greeting);
  expect(said).toMatchObject({ channels: 16, frameHz: [50], encoding: { kind: "microseconds", tickUs: 1 } });
  expect(said && isApart(said, greeting)).toBe(false);
});

test("another prescaler of the same chip is a chip with another frame; 16 bits of a frame are counts", () => {
  const chip = {
    ...greeting,
    groups: [
      {
        first: 0,
        last: 15,
        periodNs: 19_660_800,
        lowestCount: 0,
        atLowest: 0,
        highestCount: 4095,
        atHighest: 19_656_000,
      },
    ],
  };
  const said = boardAsSaid(fern, chip);
  expect(said && isApart(said, chip)).toBe(false);
  const counts = {
    ...greeting,
    groups: [
      {
        first: 0,
        last: 15,
        periodNs: 20_000_000,
        lowestCount: 0,
        atLowest: 0,
        highestCount: 65_535,
        atHighest: 19_999_695,
      },
    ],
  };
  expect(boardAsSaid(fern, counts)?.encoding.kind).not.toBe("pulseChip");
});

test("one that begins at a millisecond is none that Vantel can describe", () => {
  const shifted = {
    ...greeting,
    groups: [
      {
        first: 0,
        last: 15,
        periodNs: 20_000_000,
        lowestCount: 0,
        atLowest: 1_000_000,
        highestCount: 250,
        atHighest: 2_000_000,
      },
    ],
  };
  expect(boardAsSaid(fern, shifted)).toBeNull();
  expect(boardAsSaid(fern, { ...greeting, countName: "tick" })).toBeNull();
});

test("taking over is one edit, and refused where a joint would lose its channel", () => {
  const demo = demoProject();
  const done = applyEdit(
    describeBoard("fern", { channels: 16, frameHz: [50], encoding: { kind: "microseconds", tickUs: 1 } }),
    demo,
  );
  expect(done.ok && byId(done.value.boards, "fern").channels).toBe(16);
  expect(applyEdit(describeBoard("fern", { channels: 2, frameHz: [50], encoding: fern.encoding }), demo)).toMatchObject(
    { ok: false },
  );
});

test("9600 bit/s do not carry the frames of six joints fifty times a second; 115 200 do", () => {
  const channels = [0, 1, 2, 3, 4, 5];
  // 13 bytes, and for each channel a space, a digit, a colon and four digits: 13 + 6 × 7 = 55; × 10 × 50 = 27 500 bit/s.
  expect(wireTooSlow(fern, channels, 9600)).toContain("286 %");
  expect(wireTooSlow(fern, channels, 115_200)).toBeNull();
  expect(wireTooSlow(fern, [], 300)).toBeNull();
});
