import { applyEdit, tickSwitchOn } from "@core/project";
import { expect, test } from "vitest";
import { switchOnLines } from ".";
import { demo } from "./fixtures";

test("grounds come before supplies, supplies before rails, boards before servos; each servo once, and what to see with numbers", () => {
  const lines = switchOnLines(demo);
  const at = (id: string) => lines.findIndex((line) => line.id === id);
  const order = [
    "before",
    "grounds",
    "supply:supply-arm",
    "rail:rail-arm",
    "regulator:supply-five",
    "rail:rail-five",
    "board:fern",
    "joint:beak",
    "together",
  ];
  expect(order.map(at)).toEqual(order.map(at).sort((a, b) => a - b));
  expect(order.map(at)).not.toContain(-1);
  for (const { id } of demo.joints) expect(at(`joint:${id}`)).toBeGreaterThan(at("board:ivy"));
  expect(lines[at("supply:supply-arm")]?.see).toContain("11.4 V to 12.6 V");
  expect(new Set(lines.map(({ id }) => id)).size).toBe(lines.length);
});

test("a tick is kept with its date, and can be taken back", () => {
  const done = applyEdit(tickSwitchOn("grounds", "2026-11-26T12:00:00.000Z"), demo);
  if (!done.ok) throw new Error(done.problem);
  expect(done.value.switchOn).toEqual([{ lineId: "grounds", doneAt: "2026-11-26T12:00:00.000Z" }]);
  const back = applyEdit(tickSwitchOn("grounds", null), done.value);
  expect(back.ok && back.value.switchOn).toEqual([]);
});
