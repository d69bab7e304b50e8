import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { afterAll, expect, test } from "vitest";
import { BusOnWire, benchOnWire } from "../busOnWire";

const demo = demoProject();
const arm = demo.joints.filter(({ boardId }) => boardId === "ivy");
const ends: (() => void)[] = [];
afterAll(() => {
  for (const end of ends) end();
});

test.each([
  ["that holds nothing back", { echoes: false, holdsMs: 0 }],
  ["that echoes", { echoes: true, holdsMs: 0 }],
  ["that holds back for 16 ms", { echoes: false, holdsMs: 16 }],
  ["that echoes and holds back", { echoes: true, holdsMs: 16 }],
])("behind an adapter %s: devices are found, read, held and moved, and let go", async (_, adapter) => {
  const wire = new BusOnWire(demo, "ivy");
  await wire.start(adapter);
  const { bench, until, run, health, end } = benchOnWire(demo, "ivy", wire.port);
  ends.push(() => wire.end(), end);
  const live = () => bench.linkReports.find(({ boardId }) => boardId === "ivy")?.state === "live";
  await until(live);
  const card = byId(demo.cards, arm[0]?.cardId ?? "");
  if (card.kind !== "smart") throw new Error("The arm is on a bus.");
  const board = byId(demo.boards, "ivy");
  const bitsPerS = board.encoding.kind === "bus" ? board.encoding.bitsPerS : 0;
  const layoutIds = [
    ...new Set(
      arm.map(({ cardId }) => byId(demo.cards, cardId)).flatMap((one) => (one.kind === "smart" ? [one.layoutId] : [])),
    ),
  ];
  const found = await run({ kind: "scan", layoutIds, lowestId: 1, highestId: 8, bitsPerS: [bitsPerS] });
  expect(found.kind === "found" && found.found.map(({ id }) => id).sort()).toEqual(
    arm.map(({ channel }) => channel).sort(),
  );
  const values = await run({ kind: "readAll", layoutId: card.layoutId, id: arm[0]?.channel ?? 0 });
  expect(values.kind === "values" && values.values.size).toBeGreaterThan(5);

  bench.command({ kind: "holdAll" }, performance.now());
  await until(() => wire.bus.devices.filter((device) => device.isHeld).length >= arm.length);
  const angles = () => wire.bus.devices.map((device) => device.servo.angleDeg);
  // What is held first goes home, calmly.
  let before = angles();
  let stillFor = 0;
  await until(() => {
    const now = angles();
    stillFor = now.every((deg, at) => Math.abs(deg - (before[at] as number)) < 0.05) ? stillFor + 1 : 0;
    before = now;
    return stillFor > 40;
  });
  for (const { id } of arm) bench.command({ kind: "jog", jointId: id, by: 15, in: "target" }, performance.now());
  await until(() => angles().filter((deg, at) => Math.abs(deg - (before[at] as number)) > 8).length >= arm.length);
  bench.command({ kind: "releaseAll" }, performance.now());
  await until(() => wire.bus.devices.every((device) => !device.isHeld), 3000);
  // What it holds back is measured; by how much room is given, a busy machine would say as well (see core/bus/wire).
  if (adapter.holdsMs > 0) expect(health()?.heldBackMs).toBeGreaterThan(10);
});

test("a wire that is pulled is missed in words, and nothing is driven any more", async () => {
  const wire = new BusOnWire(demo, "ivy");
  await wire.start({ echoes: true, holdsMs: 0 });
  const { bench, until, end } = benchOnWire(demo, "ivy", wire.port);
  ends.push(() => wire.end(), end);
  const report = () => bench.linkReports.find(({ boardId }) => boardId === "ivy");
  await until(() => report()?.state === "live");
  wire.pull();
  await until(() => report()?.life === "lost");
  expect(report()?.sentence).toMatch(/gone|no port/);
});
