import { demoProject } from "@core/demo";
import { type Project, renameProject, setTravel } from "@core/project";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { saveStore, startAutosave } from "./autosave";
import { edit, layOut, undo } from "./document";

let saved: string[];
let failing: Error | null;
/** How long a write takes. */
let takesMs: number;
let autosave: ReturnType<typeof startAutosave>;
const save = async (project: Project) => {
  if (takesMs > 0) await new Promise((done) => setTimeout(done, takesMs));
  if (failing) throw failing;
  saved.push(project.name);
};
const store = { save };
beforeEach(() => {
  vi.useFakeTimers();
  saved = [];
  failing = null;
  takesMs = 0;
  store.save = save;
  layOut(demoProject());
  autosave = startAutosave(store);
});
afterEach(() => {
  autosave.stop();
  vi.useRealTimers();
});

test("an edit is saved within a second, and the words say so", async () => {
  edit(renameProject("One"));
  expect(saveStore.getState().kind).toBe("waiting");
  await vi.advanceTimersByTimeAsync(1000);
  expect(saved).toEqual(["One"]);
  expect(saveStore.getState().kind).toBe("saved");
});

test("a drag is saved once it rests, not at every step; an undo is saved too", async () => {
  for (let deg = 70; deg > 60; deg -= 1) {
    edit(setTravel("neck-turn", -80, deg));
    await vi.advanceTimersByTimeAsync(50);
  }
  await vi.advanceTimersByTimeAsync(400);
  expect(saved).toHaveLength(1);
  undo();
  await vi.advanceTimersByTimeAsync(400);
  expect(saved).toHaveLength(2);
});

test("a drag that never rests is saved all the same, once a second", async () => {
  for (let step = 0; step < 40; step += 1) {
    edit(setTravel("neck-turn", -80, 10 + step));
    await vi.advanceTimersByTimeAsync(100);
  }
  expect(saved.length).toBeGreaterThanOrEqual(3);
});

test("an edit that is undone before it was saved leaves nothing to save", async () => {
  edit(renameProject("Never mind"));
  undo();
  expect(saveStore.getState().kind).toBe("saved");
  await vi.advanceTimersByTimeAsync(2000);
  expect(saved).toEqual([]);
});

test("a page that is hidden saves at once, and not twice", async () => {
  edit(renameProject("Leaving"));
  await autosave.flush();
  expect(saved).toEqual(["Leaving"]);
  await vi.advanceTimersByTimeAsync(1000);
  expect(saved).toHaveLength(1);
});

test("a full store is said in words, and tried again until it works", async () => {
  failing = Object.assign(new Error("full"), { name: "QuotaExceededError" });
  edit(renameProject("Much"));
  await vi.advanceTimersByTimeAsync(400);
  expect(saveStore.getState()).toMatchObject({ kind: "failed", sentence: expect.stringContaining("storage is full") });
  failing = null;
  await vi.advanceTimersByTimeAsync(3500);
  expect(saved).toEqual(["Much"]);
  expect(saveStore.getState().kind).toBe("saved");
});

test("an edit made while a save is under way is not taken for saved", async () => {
  let finish = () => {};
  store.save = () => new Promise<void>((resolve) => (finish = resolve));
  edit(renameProject("First"));
  await vi.advanceTimersByTimeAsync(400);
  edit(renameProject("Second"));
  finish();
  await vi.advanceTimersByTimeAsync(0);
  expect(saveStore.getState().kind).toBe("waiting");
  store.save = async (project: Project) => {
    saved.push(project.name);
  };
  await vi.advanceTimersByTimeAsync(400);
  expect(saved.at(-1)).toBe("Second");
});

test("a save that takes longer than a second says so, and then that it is done", async () => {
  takesMs = 3000;
  edit(renameProject("Slow"));
  await vi.advanceTimersByTimeAsync(900);
  expect(saveStore.getState().kind).toBe("waiting");
  await vi.advanceTimersByTimeAsync(600);
  expect(saveStore.getState()).toMatchObject({ kind: "slow", sentence: expect.stringContaining("longer than usual") });
  await vi.advanceTimersByTimeAsync(2000);
  expect(saveStore.getState().kind).toBe("saved");
});

test("what is undone while it is being written is written as well: the disk ends with what the page shows", async () => {
  takesMs = 500;
  edit(renameProject("One"));
  await vi.advanceTimersByTimeAsync(400);
  undo();
  expect(saveStore.getState().kind).toBe("waiting");
  await vi.advanceTimersByTimeAsync(3000);
  expect(saved.at(-1)).toBe("Night greenhouse");
  expect(saveStore.getState().kind).toBe("saved");
});
