import "fake-indexeddb/auto";
import { demoProject } from "@core/demo";
import { writeProjectFile } from "@core/files";
import { ProjectStore } from "@storage/projectStore";
import { afterEach, beforeEach, expect, test, vi } from "vitest";

// Keys, gamepads and MIDI belong to a window.
vi.mock("./windowInputs", () => ({ listenToWindow: () => () => {} }));

/** The lock between tabs: who asked is called by the test; what has been let go is not given back. */
const lock = { ask: () => {}, taken: 0 };
vi.mock("./benchLock", () => ({
  askForBench: () => {},
  takeBench: (onAsked: () => void) => {
    lock.taken += 1;
    lock.ask = onAsked;
    return lock.taken > 1
      ? new Promise(() => {})
      : Promise.resolve({ release: () => QuietWorker.told.push({ kind: "let go" }) });
  },
}));

/** Stands in for the page: a worker that keeps what it is told, and the browser's small stores. */
class QuietWorker {
  static told: { kind: string; command?: { kind: string } }[] = [];
  onmessage: ((event: unknown) => void) | null = null;
  /** What it still hands over when it is told to part. */
  static left: unknown[] = [];
  postMessage(message: { kind: string }) {
    QuietWorker.told.push(message);
    if (message.kind !== "part") return;
    for (const data of [...QuietWorker.left, { kind: "parted" }]) this.onmessage?.({ data });
  }
  terminate() {
    QuietWorker.told.push({ kind: "terminated" });
  }
}
const kept = new Map<string, string>();
const placeholderStorage = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
};

beforeEach(() => {
  vi.resetModules();
  QuietWorker.told = [];
  QuietWorker.left = [];
  vi.stubGlobal("Worker", QuietWorker);
  vi.stubGlobal("localStorage", placeholderStorage);
  vi.stubGlobal("sessionStorage", placeholderStorage);
  vi.stubGlobal("addEventListener", () => {});
  vi.stubGlobal("removeEventListener", () => {});
  vi.stubGlobal("document", { addEventListener: () => {}, removeEventListener: () => {} });
});
afterEach(() => vi.unstubAllGlobals());

/** A freshly loaded page, opened. */
async function openPage() {
  lock.taken = 0;
  const session = await import("./session");
  const { projectNow } = await import("./document");
  const { noticeStore } = await import("./notices");
  await session.openBench();
  return { ...session, projectNow, notices: () => noticeStore.getState().map((notice) => notice.sentence) };
}

test("the first visit lays out the demo, hands it to the worker and wakes the simulated joints held", async () => {
  const page = await openPage();
  expect(page.projectNow()).toEqual(demoProject());
  expect(QuietWorker.told.map((message) => message.command?.kind ?? message.kind)).toEqual([
    "memories",
    "project",
    "holdAll",
  ]);
  expect((await page.listProjects()).map((summary) => summary.name)).toEqual(["Night greenhouse"]);
});

test("a file is laid beside what is there, never over it, and is opened again next time", async () => {
  const page = await openPage();
  expect(await page.importProject(writeProjectFile({ ...demoProject(), name: "Night greenhouse" }))).toMatchObject({
    ok: true,
  });
  expect(page.projectNow().name).toBe("Night greenhouse (2)");
  expect(page.projectNow().id).not.toBe("night-greenhouse");
  expect(await page.listProjects()).toHaveLength(2);
  vi.resetModules();
  const later = await openPage();
  expect(later.projectNow().name).toBe("Night greenhouse (2)");
});

test("a damaged file changes nothing", async () => {
  const page = await openPage();
  const before = page.projectNow();
  expect(await page.importProject("{")).toMatchObject({ ok: false });
  expect(page.projectNow()).toBe(before);
});

test("before another project is laid out, every joint of the old one is released", async () => {
  const page = await openPage();
  QuietWorker.told = [];
  await page.openDemo();
  const kinds = QuietWorker.told.map((message) => message.command?.kind ?? message.kind);
  expect(kinds.indexOf("releaseAll")).toBeGreaterThanOrEqual(0);
  expect(kinds.indexOf("releaseAll")).toBeLessThan(kinds.indexOf("project"));
});

test("a browser that keeps nothing still lays an imported file on the bench, and says that it is not saved", async () => {
  const page = await openPage();
  // The page's own copy of the module: this file's import is of another load.
  const { ProjectStore: PageStore } = await import("@storage/projectStore");
  const broken = vi.spyOn(PageStore.prototype, "save").mockRejectedValue(new Error("no storage"));
  const unlisted = vi.spyOn(PageStore.prototype, "list").mockRejectedValue(new Error("no storage"));
  expect(await page.importProject(writeProjectFile({ ...demoProject(), name: "On paper" }))).toMatchObject({
    ok: true,
  });
  expect(page.projectNow().name).toBe("On paper");
  const { saveStore } = await import("./autosave");
  expect(saveStore.getState()).toMatchObject({
    kind: "failed",
    sentence: expect.stringContaining("Export the project"),
  });
  broken.mockRestore();
  unlisted.mockRestore();
});

test("asked for by another tab, the worker has released everything and ended before the bench is let go", async () => {
  await openPage();
  QuietWorker.told = [];
  lock.ask();
  // Asked again while it is at it: once is enough.
  lock.ask();
  await vi.waitFor(() => expect(QuietWorker.told.map(({ kind }) => kind)).toContain("let go"));
  expect(QuietWorker.told.map(({ kind }) => kind)).toEqual(["part", "terminated", "let go"]);
});

test("a take that is going on when another tab asks is in the saved project, samples and all", async () => {
  const page = await openPage();
  const before = page.projectNow().takes.length;
  const recorded = { jointIds: ["beak"], frameMs: 20, fromMs: 0, channels: [Float32Array.of(0, 5, 9)] };
  QuietWorker.left = [{ kind: "recorded", recorded }];
  lock.ask();
  await vi.waitFor(() => expect(QuietWorker.told.map(({ kind }) => kind)).toContain("let go"));
  const store = new ProjectStore();
  const kept = await store.open(page.projectNow().id);
  if (!kept.ok) throw new Error(kept.problem);
  expect(kept.value.takes).toHaveLength(before + 1);
  const samples = (await store.takesOf(kept.value)).find(({ id }) => id === kept.value.takes.at(-1)?.id);
  expect(Array.from(samples?.channels.beak ?? [])).toEqual([0, 5, 9]);
});

test("the project on the bench cannot be deleted under it; another can", async () => {
  const page = await openPage();
  expect(await page.removeProject(page.projectNow().id)).toMatchObject({ ok: false });
  const other = (await page.listProjects()).find((summary) => summary.id !== page.projectNow().id);
  expect(await page.removeProject(other?.id ?? "")).toMatchObject({ ok: true });
});

test("a stored project that is damaged is left alone, said so, and the demo is there meanwhile", async () => {
  await new ProjectStore().save({ ...demoProject(), id: "hurt", joints: "gone" } as never, Date.now() + 1e6);
  kept.set("vantel.project", "hurt");
  const page = await openPage();
  expect(page.notices().join()).toContain("could not be opened");
  expect(page.projectNow().id).not.toBe("hurt");
  expect((await page.listProjects()).some((summary) => summary.id === "hurt")).toBe(true);
});

test("an export is a file of this project under its name", async () => {
  const page = await openPage();
  expect(page.exportProject()).toEqual({
    name: "night-greenhouse.vantel.json",
    text: writeProjectFile(page.projectNow()),
  });
});
