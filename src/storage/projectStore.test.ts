import "fake-indexeddb/auto";
import { demoProject } from "@core/demo";
import { schemaVersion } from "@core/project";
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
  const lies = JSON.parse(await store.asItLies(demo.id));
  expect([lies.stored.project.joints.length, lies.routines.length]).toEqual([demo.joints.length - 1, 2]);
  await store.remove(demo.id);
  expect(await store.open(demo.id)).toMatchObject({ ok: false, problem: expect.stringContaining("no longer") });
});

test("an edit of one routine writes that one; what was removed is gone, and the order is kept", async () => {
  const store = new ProjectStore("c");
  const demo = demoProject();
  await store.save(demo, 1);
  const [owl, tray] = demo.routines as [(typeof demo.routines)[0], (typeof demo.routines)[0]];
  const turned = { ...demo, routines: [tray, { ...owl, name: "Owl stirs" }] };
  await store.save(turned, 2);
  // A store that has just been opened knows nothing of what was written, and reads the same.
  expect(await new ProjectStore("c").open(demo.id)).toEqual({ ok: true, value: turned });
  await new ProjectStore("c").save({ ...turned, routines: [tray], pads: [] }, 3);
  expect(await store.open(demo.id)).toMatchObject({ ok: true, value: { routines: [{ id: tray.id }] } });
});

test("what was cleared under it is written again, whole, with the next save", async () => {
  const { default: Dexie } = await import("dexie");
  const store = new ProjectStore("cleared");
  const demo = demoProject();
  await store.save(demo, 1);
  const beside = await new Dexie("cleared").open();
  await Promise.all(beside.tables.map((table) => table.clear()));
  beside.close();
  const renamed = { ...demo, name: "Night greenhouse, mended" };
  await store.save(renamed, 2);
  expect(await store.open(demo.id)).toEqual({ ok: true, value: renamed });
});

test("a project kept by an earlier version, its routines within it, opens as well", async () => {
  const { default: Dexie } = await import("dexie");
  const old = new Dexie("d");
  old.version(1).stores({ projects: "id, savedAt" });
  const demo = demoProject();
  await old.table("projects").put({ id: demo.id, name: demo.name, savedAt: 1, version: schemaVersion, project: demo });
  old.close();
  expect(await new ProjectStore("d").open(demo.id)).toEqual({ ok: true, value: demo });
});

test("routines that an earlier version kept beside it open as well; one whose text is damaged is told of, and nothing lies there less", async () => {
  const { default: Dexie } = await import("dexie");
  const store = new ProjectStore("f");
  const demo = demoProject();
  await store.save(demo, 1);
  const rows = (await new Dexie("f").open()).table("routines");
  const [owl] = demo.routines as [(typeof demo.routines)[0]];
  await rows.put({ projectId: demo.id, id: owl.id, routine: owl });
  expect(await store.open(demo.id)).toEqual({ ok: true, value: demo });
  await rows.put({ projectId: demo.id, id: owl.id, text: JSON.stringify(owl).slice(0, -40) });
  expect(await store.open(demo.id)).toMatchObject({ ok: false, problem: expect.stringContaining("damaged") });
  expect(JSON.parse(await store.asItLies(demo.id)).routines).toHaveLength(2);
});

test("samples are kept beside their project, and removed when no take names them any more", async () => {
  const store = new ProjectStore("e");
  const take = { id: "t", name: "T", madeAt: "2026-11-23T10:00:00.000Z", frameMs: 20, frames: 2, jointIds: ["beak"] };
  const demo = { ...demoProject(), takes: [take] };
  const data = { id: "t", channels: { beak: Float32Array.of(1, 2) } };
  await store.saveTake(demo.id, data);
  await store.saveTake("other", data);
  expect(await store.takesOf(demo)).toEqual([data]);
  expect(await store.takesOf({ ...demo, takes: [] })).toEqual([]);
  expect(await store.takesOf(demo)).toEqual([]);
  expect(await store.takesOf({ ...demo, id: "other" })).toEqual([data]);
});

test("a recording that goes on is kept until it is a take, and goes with its project", async () => {
  const store = new ProjectStore("f");
  const recorded = { jointIds: ["beak"], frameMs: 20, fromMs: 0, channels: [Float32Array.of(1, 2, 3)] };
  await store.keepRecording("p", recorded);
  expect(await new ProjectStore("f").recordingOf("p")).toEqual(recorded);
  await store.keepRecording("p", null);
  expect(await store.recordingOf("p")).toBeNull();
});
