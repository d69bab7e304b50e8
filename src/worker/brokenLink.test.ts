import { demoProject } from "@core/demo";
import { Engine } from "@core/engine";
import { expect, test, vi } from "vitest";
import { benchOf } from "../../tests/benchInHand";

const demo = demoProject();

test.each([
  ["of pulses", demo.boards.find(({ encoding }) => encoding.kind !== "bus")?.id, false],
  ["of a bus", demo.boards.find(({ encoding }) => encoding.kind === "bus")?.id, false],
  ["that cannot be made", demo.boards[0]?.id, true],
])("a broken link, %s, is its board's matter: the others get their frames, and are let go", (_, boardId, isNever) => {
  const broken = () => {
    throw new Error("Broken.");
  };
  const stream = { life: { kind: "open" as const }, onBytes: () => {}, onLife: () => {}, write: broken };
  const setLastWords = isNever ? broken : () => {};
  const openStream = () => ({ ...stream, setLastWords, setSpeed: broken, close: broken });
  const link = { kind: "tcp" as const, host: "bench.example", port: 4000 };
  const wired = { ...demo, boards: demo.boards.map((board) => (board.id === boardId ? { ...board, link } : board)) };
  const { bench, run, command, sent, lastFrame, configure } = benchOf(wired, { openStream, nowMs: () => 0 });
  const news: string[] = [];
  bench.onFault = (sentence) => news.push(sentence);
  bench.onNews = (sentence) => news.push(sentence);
  command({ kind: "holdAll" });
  run(200);
  const others = demo.boards.filter(({ id }) => id !== boardId);
  for (const { id } of others) expect(lastFrame(id).size).toBeGreaterThan(0);
  const before = sent.length;
  expect(command({ kind: "releaseAll" })).toMatchObject({ ok: true });
  const letGo = sent.slice(before).filter(({ body }) => body.startsWith("R"));
  expect(letGo.map((one) => one.boardId)).toEqual(expect.arrayContaining(others.map(({ id }) => id)));
  if (!isNever) expect(news.join(" ")).toMatch(/could not be told to release/);
  configure({ ...wired, boards: others, joints: wired.joints.filter((joint) => joint.boardId !== boardId) });
  run(200);
  expect(bench.linkReports.map((report) => report.boardId)).toEqual(others.map(({ id }) => id));
});

test("whatever breaks while everything is to be released, every board is told", () => {
  const { run, command, sent } = benchOf(demo);
  command({ kind: "holdAll" });
  run(200);
  const before = sent.length;
  const apply = vi.spyOn(Engine.prototype, "apply").mockImplementation(() => {
    throw new Error("Broken.");
  });
  expect(() => command({ kind: "releaseAll" })).toThrow("Broken.");
  apply.mockRestore();
  const letGo = sent.slice(before).filter(({ body }) => body.startsWith("R"));
  const onLines = demo.boards.filter(({ encoding }) => encoding.kind !== "bus").map(({ id }) => id);
  expect(letGo.map(({ boardId }) => boardId)).toEqual(expect.arrayContaining(onLines));
});

test("where a document breaks as it is laid out, nothing is held until one is laid out whole", () => {
  const { bench, run, command, configure } = benchOf(demo);
  run(200);
  const breaks = vi.spyOn(Engine.prototype, "configure").mockImplementation(() => {
    throw new Error("Broken.");
  });
  expect(() => configure(demo)).toThrow("Broken.");
  breaks.mockRestore();
  expect(command({ kind: "releaseAll" })).toMatchObject({ ok: true });
  for (const kind of ["holdAll", "play"] as const)
    expect(bench.command(kind === "play" ? { kind, routineId: "routine-owl-wakes" } : { kind }, 300)).toMatchObject({
      ok: false,
      problem: expect.stringContaining("could not be laid on the bench"),
    });
  configure(demo);
  expect(command({ kind: "holdAll" })).toMatchObject({ ok: true });
});
