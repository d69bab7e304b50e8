import { demoProject } from "@core/demo";
import { expect, test } from "vitest";
import { jsonOf, markdownOf, type TableAsk, tableOf } from ".";

const demo = demoProject();
const rowsOf = (ask: TableAsk) => {
  const made = tableOf(demo, new Map(), ask);
  if (!made.ok) throw new Error(made.problem);
  return made.value;
};

test("a joint's row has its limits, and the pulses and counts at them", () => {
  const [head = [], first = []] = rowsOf({ kind: "joints" });
  const cell = (name: string) => first[head.indexOf(name)];
  expect(["joint", "board", "low", "high", "pulse_home", "count_home"].map(cell)).toEqual([
    "Neck turn",
    "Fern",
    -80,
    80,
    1500,
    612,
  ]);
});

test("poses are told as they are, with nothing where they say nothing", () => {
  const rows = rowsOf({ kind: "poses" });
  expect(rows).toHaveLength(demo.poses.length + 1);
  expect(rows.find(([name]) => name === "Blink")?.slice(2, 6)).toEqual(["", "", 0, 0]);
});

test("a routine is sampled at the rate that is asked for, from its beginning to its end", () => {
  const rows = rowsOf({ kind: "routine", routineId: "routine-owl-wakes", hz: 10 });
  expect(rows[0]?.slice(0, 3)).toEqual(["time_ms", "Neck turn_deg", "Neck turn_count"]);
  expect(rows).toHaveLength(82);
  expect(rows.at(-1)?.slice(0, 3)).toEqual([8000, 0.0082, 612]);
});

test.each([
  [{ kind: "routine", routineId: "gone", hz: 50 }, "no longer on the bench"],
  [{ kind: "routine", routineId: "routine-owl-wakes", hz: 0 }, "0.1 to 1000"],
  [{ kind: "routine", routineId: "routine-owl-wakes", hz: Number.NaN }, "0.1 to 1000"],
] as const)("what cannot be told is refused in words: %j", (ask, words) => {
  const made = tableOf(demo, new Map(), ask);
  expect(made.ok ? "" : made.problem).toContain(words);
});

test("Markdown and JSON hold the same cells", () => {
  const rows = [
    ["pose", "lid|left"],
    ["a\nb", 1.5],
    ["c", ""],
  ];
  expect(markdownOf(rows)).toBe("| pose | lid\\|left |\n| --- | --- |\n| a b | 1.5 |\n| c |  |\n");
  expect(JSON.parse(jsonOf(rows))).toEqual([
    { pose: "a\nb", "lid|left": 1.5 },
    { pose: "c", "lid|left": null },
  ]);
});
