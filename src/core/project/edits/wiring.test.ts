import {
  addBoard,
  addJoint,
  byId,
  changeServo,
  type NewJoint,
  removeBoard,
  removeJoint,
  removeRig,
  renameBoard,
  renameRig,
  rewireJoint,
  usualControl,
} from "@core/project";
import { newCard } from "@core/servo";
import { describe, expect, test } from "vitest";
import { demo, done, refusal } from "./onDemo";

const fern = byId(demo.boards, "fern");
const jaw = (change: Partial<NewJoint["joint"]> = {}): NewJoint => ({
  joint: {
    id: "jaw",
    label: "Jaw",
    rigId: "tawny",
    cardId: "card-jaw",
    boardId: "fern",
    channel: 9,
    axis: {
      kind: "angle",
      direction: 1,
      zeroDeg: 90,
      travel: { low: -45, high: 45 },
      homeDeg: 0,
      speedLimitDegPerS: 120,
    },
    control: usualControl,
    ...change,
  },
  card: newCard("positional", "card-jaw", "Jaw servo"),
});

describe("a servo of one's own", () => {
  test("comes onto the bench with card, rig and board in one step", () => {
    const all = {
      ...jaw({ rigId: "mask", boardId: "own", channel: 0 }),
      rig: { id: "mask", label: "Mask", mirror: [] },
      board: { ...fern, id: "own", label: "Own" },
    };
    const after = done(addJoint(all));
    expect(byId(after.joints, "jaw")).toMatchObject({ rigId: "mask", boardId: "own" });
    expect(after.cards.length).toBe(demo.cards.length + 1);
    expect(after.boards.length).toBe(demo.boards.length + 1);
  });

  test.each<[string, NewJoint, string]>([
    ["a channel that is taken", jaw({ channel: 0 }), "channel 0 of Fern already has Neck turn"],
    ["a channel that the board lacks", jaw({ channel: 16 }), "channels 0 to 11"],
    ["a servo that is built in elsewhere", jaw({ cardId: "card-beak" }), "already built into Beak"],
    ["a pulse servo on a bus", jaw({ boardId: "ivy" }), "cannot be wired to Ivy"],
    ["a rig that is not there", jaw({ rigId: "nowhere" }), "no rig “nowhere”"],
  ])("%s is refused", (_, asked, says) => {
    expect(refusal(addJoint(asked))).toContain(says);
  });

  test("its joint is moved to a free channel of another board, but not to one that is taken", () => {
    expect(byId(done(rewireJoint("beak", "pebble", 5)).joints, "beak")).toMatchObject({
      boardId: "pebble",
      channel: 5,
    });
    expect(refusal(rewireJoint("beak", "pebble", 0))).toContain("Wrist tilt");
  });

  test("it is swapped for a spare one of its kind", () => {
    const spare = newCard("positional", "spare", "Spare");
    const stocked = { ...demo, cards: [...demo.cards, spare] };
    expect(byId(done(changeServo("beak", "spare"), stocked).joints, "beak").cardId).toBe("spare");
    const crank = newCard("continuous", "spare", "Spare crank");
    expect(refusal(changeServo("beak", "spare"), { ...demo, cards: [...demo.cards, crank] })).toContain("does not fit");
  });
});

describe("what is taken off the bench", () => {
  test("a joint goes with its leads and out of all poses; its card stays in the file", () => {
    const after = done(removeJoint("neck-nod"));
    expect(after.leads.map((lead) => lead.id)).not.toContain("lead-stick-nod");
    for (const pose of after.poses) expect(Object.keys(pose.targets)).not.toContain("neck-nod");
    expect(after.cards).toEqual(demo.cards);
  });

  test("a board or a rig goes only when nothing hangs on it", () => {
    expect(refusal(removeBoard("pebble"))).toBe("Wrist tilt, Grip, Vent crank are wired to it.");
    expect(refusal(removeRig("vent"))).toContain("still has joints");
    const without = done(removeJoint("vent-crank"));
    expect(done(removeRig("vent"), without).rigs.map((rig) => rig.id)).toEqual(["tawny", "trellis"]);
    const spare = done(addBoard({ ...fern, id: "spare", label: "Spare" }));
    expect(done(removeBoard("spare"), spare).boards).toEqual(demo.boards);
  });

  test("boards and rigs take names that are names", () => {
    expect(byId(done(renameBoard("fern", "  Moss ")).boards, "fern").label).toBe("Moss");
    expect(refusal(renameRig("tawny", " "))).toContain("at least one character");
  });

  test("a board that cannot be is refused with what would be right", () => {
    expect(refusal(addBoard({ ...fern, id: "wide", channels: 4000 }))).toBe("This can be at most 254.");
  });
});
