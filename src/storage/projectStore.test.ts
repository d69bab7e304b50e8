import "fake-indexeddb/auto";
import { demoProject } from "@core/demo";
import { expect, test } from "vitest";
import { ProjectStore } from "./projectStore";

test("what was saved is opened the same, and the newest is first in the list", async () => {
  const store = new ProjectStore("a");
  const demo = demoProject();
  await store.save(demo, 1000);
  await store.save({ ...demo, id: "other", name: "Workshop head" }, 2000);
  await store.save({ ...demo, name: "Night greenhouse, mended" }, 3000);
  expect((await store.list()).map((summary) => summary.name)).toEqual(["Night greenhouse, mended", "Workshop head"]);
  expect(await store.open("other")).toEqual({ ok: true, value: { ...demo, id: "other", name: "Workshop head" } });
});

test("a removed or damaged project is answered with a sentence", async () => {
  const store = new ProjectStore("b");
  const demo = demoProject();
  await store.save({ ...demo, joints: demo.joints.slice(1), cards: [] } as never, 1);
  expect(await store.open(demo.id)).toMatchObject({ ok: false, problem: expect.stringContaining("damaged") });
  await store.remove(demo.id);
  expect(await store.open(demo.id)).toMatchObject({ ok: false, problem: expect.stringContaining("no longer") });
});
