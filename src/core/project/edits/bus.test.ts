import { kestrel } from "@core/bus";
import {
  addBusJoint,
  byId,
  keepLayout,
  type Layout,
  type NewJoint,
  removeLayout,
  setBusSpeed,
  usualControl,
} from "@core/project";
import { newCard } from "@core/servo";
import { expect, test } from "vitest";
import { demo, done } from "./onDemo";

const own: Layout = { ...kestrel, id: "wren", name: "Wren" };

test("a family of one's own is kept, changed in its place, and its changes undo together", () => {
  const kept = done(keepLayout(own));
  expect(kept.layouts).toEqual([...demo.layouts, own]);
  const changed = done(keepLayout({ ...own, defaultId: 7 }), kept);
  expect(changed.layouts).toHaveLength(kept.layouts.length);
  expect(byId(changed.layouts, "wren").defaultId).toBe(7);
  expect(keepLayout(own).mergeKey).toBe("layout wren");
});

const smart = (channel: number, layoutId: string): NewJoint => {
  const card = newCard("smart", `card-new-${channel}`, "Jaw servo");
  if (card.kind !== "smart") throw new Error("It is no smart card.");
  return {
    joint: {
      id: `new-${channel}`,
      label: "Jaw",
      rigId: "trellis",
      cardId: card.id,
      boardId: "ivy",
      channel,
      axis: {
        kind: "angle",
        direction: 1,
        zeroDeg: 150,
        travel: { low: -45, high: 45 },
        homeDeg: 0,
        speedLimitDegPerS: 60,
      },
      control: usualControl,
    },
    card: { ...card, layoutId },
  };
};

test("a family goes once no servo is of it; as long as one is, that one is named", () => {
  const kept = done(keepLayout(own));
  const used = done(addBusJoint(smart(9, "wren"), null), kept);
  expect(removeLayout("wren").apply(used)).toEqual({
    ok: false,
    problem: "“Jaw servo” is of this family. Remove its card first.",
  });
  expect(done(removeLayout("wren"), kept).layouts).toEqual(demo.layouts);
});

test("a device that was found becomes a joint; the simulated one beside the bus becomes the servo of its card", () => {
  const device = demo.simulatedDevices[0];
  if (!device) throw new Error("There is no device beside the bus.");
  const after = done(addBusJoint(smart(9, device.layoutId), device.id));
  expect(byId(after.joints, "new-9").channel).toBe(9);
  expect(byId(after.simulatedDevices, device.id).cardId).toBe("card-new-9");
  // The others stay boxed.
  expect(after.simulatedDevices.filter(({ cardId }) => cardId !== null)).toHaveLength(
    demo.simulatedDevices.filter(({ cardId }) => cardId !== null).length + 1,
  );
});

test("a number on the bus that a joint has already is refused, and nothing is half made", () => {
  const taken = addBusJoint(smart(2, "kestrel"), null).apply(demo);
  expect(taken.ok).toBe(false);
  expect(demo.cards.some(({ id }) => id === "card-new-2")).toBe(false);
});

test("another speed is a bus's alone: a board that makes pulses stays as it is", () => {
  expect(byId(done(setBusSpeed("ivy", 1_000_000)).boards, "ivy").encoding).toMatchObject({ bitsPerS: 1_000_000 });
  expect(byId(done(setBusSpeed("fern", 1_000_000)).boards, "fern")).toEqual(byId(demo.boards, "fern"));
});
