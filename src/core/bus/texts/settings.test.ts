import {
  heron,
  kestrel,
  lacksForJoints,
  readLayout,
  readSettings,
  settingsOf,
  writeLayout,
  writeSettings,
} from "@core/bus";
import type { Layout } from "@core/project";
import { expect, test } from "vitest";

const at = (layout: Layout, label: string) => {
  const found = layout.registers.find((one) => one.label === label);
  if (!found) throw new Error(label);
  return found.address;
};
/** A Kestrel as it left the shop, with its pause and its lowest place changed. */
const values = new Map([
  ...kestrel.registers.map((register) => [register.address, register.default] as const),
  [at(kestrel, "Pause before answers"), 100] as const,
  [at(kestrel, "Lowest place"), 50] as const,
]);

test("the settings of a device are what it keeps and can be told, but not its place on the bus", () => {
  const labels = settingsOf(kestrel).map(({ label }) => label);
  expect(labels).toContain("Pause before answers");
  expect(labels).toContain("Lowest place");
  for (const not of ["Number", "Wire speed", "Wanted place", "Grip", "Kind"]) expect(labels).not.toContain(not);
});

test("what was saved is read back, by the names of the registers", () => {
  const read = readSettings(kestrel, writeSettings(kestrel, values));
  if (!read.ok) throw new Error(read.problem);
  expect(read.value.get(at(kestrel, "Pause before answers"))).toBe(100);
  expect(read.value.get(at(kestrel, "Lowest place"))).toBe(50);
  expect(read.value.has(at(kestrel, "Number"))).toBe(false);
  expect(read.value.size).toBe(settingsOf(kestrel).length);
});

test("a register that was not read is not in the file", () => {
  const some = readSettings(kestrel, writeSettings(kestrel, new Map([[at(kestrel, "Pause before answers"), 9]])));
  expect(some).toEqual({ ok: true, value: new Map([[at(kestrel, "Pause before answers"), 9]]) });
});

const file = (change: (parsed: { layoutId: string; values: Record<string, number> }) => void) => {
  const parsed = JSON.parse(writeSettings(kestrel, values));
  change(parsed);
  return JSON.stringify(parsed);
};

test.each([
  ["no JSON", "{", "This is no file of a device's settings."],
  ["another file", '{"format":"something","version":1}', "This is no file of a device's settings."],
  ["another family", writeSettings(heron, new Map()), "These are the settings of a Heron, and this is a Kestrel."],
  [
    "a name that is no setting",
    file(({ values: kept }) => {
      kept.Grip = 1;
    }),
    "Kestrel has no setting “Grip”. Nothing was written.",
  ],
])("of %s nothing is taken", (_, text, sentence) => {
  expect(readSettings(kestrel, text)).toEqual({ ok: false, problem: sentence });
});

test("a value out of its range refuses the whole file, and says which", () => {
  const read = readSettings(
    kestrel,
    file(({ values: kept }) => {
      kept["Lowest place"] = 50_000;
    }),
  );
  expect(read.ok).toBe(false);
  expect(!read.ok && read.problem).toMatch(/Lowest place.* The file says 50000\. Nothing was written\.$/);
});

test.each([kestrel, heron])("$name as a file is the same family again, under the id that it is given", (layout) => {
  expect(readLayout(writeLayout(layout), "mine")).toEqual({ ok: true, value: { ...layout, id: "mine" } });
});

test("a family's file that is damaged says where; a foreign one says what it is not", () => {
  const damaged = writeLayout(kestrel).replace('"bitsPerByte": 10', '"bitsPerByte": 3');
  const read = readLayout(damaged, "mine");
  expect(!read.ok && read.problem).toMatch(/^The family is damaged at bitsPerByte: .*Nothing was changed\.$/);
  expect(readLayout("[]", "mine")).toEqual({ ok: false, problem: "This is no file of a family of smart servos." });
  expect(readLayout("not json", "mine").ok).toBe(false);
});

test("a family becomes joints when it has a goal, a place, a torque, and can be read and written", () => {
  expect(lacksForJoints(kestrel)).toBeNull();
  expect(lacksForJoints(heron)).toBeNull();
  const without = (role: string): Layout => ({
    ...kestrel,
    registers: kestrel.registers.filter((one) => one.role !== role),
  });
  expect(lacksForJoints(without("torque"))).toBe("Its register table names no torque.");
  expect(lacksForJoints(without("goalPosition"))).toBe("Its register table names no goal position.");
  expect(lacksForJoints(without("position"))).toBe("Its register table names no position.");
  const mute = { ...kestrel, operations: kestrel.operations.filter(({ kind }) => kind !== "read") };
  expect(lacksForJoints(mute)).toBe("It has no operations to read and to write.");
});
