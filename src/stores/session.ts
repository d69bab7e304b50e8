import type { Asked } from "@core/engine";
import { readProjectFile, writeProjectFile } from "@core/files";
import { emptyProject, type Project, type TakeData } from "@core/project";
import { problem, type Result } from "@core/result";
import { ProjectStore, type ProjectSummary } from "@storage/projectStore";
import { createStore } from "zustand/vanilla";
import { saveStore, startAutosave } from "./autosave";
import { askForBench, type BenchHold, takeBench } from "./benchLock";
import { hear, startWorker, tell } from "./bridge";
import { capturePose } from "./capture";
import { documentStore, dragging, layOut, newId } from "./document";
import { watchHeart } from "./heart";
import { askToKeep } from "./keeping";
import { askBeforeLeaving, leave } from "./leaving";
import { command, endLive, giveDocument } from "./live";
import { notify } from "./notices";
import { keepTake, layOutTakes, takesNow } from "./takes";
import { asWiredHere, recallWires, wireStore } from "./wires";

/** Whether this tab has the bench. */
export const sessionStore = createStore<{ readonly kind: "opening" | "open" | "elsewhere" }>()(() => ({
  kind: "opening",
}));

/** Which project to open next time. */
const place = "vantel.project";
const store = new ProjectStore();

let opening: Promise<void> | null = null;
let hold: BenchHold | null = null;
let autosave: ReturnType<typeof startAutosave> | null = null;
let unfollow: (() => void) | null = null;
let stopDevices: (() => void) | null = null;
let unwatchHeart: (() => void) | null = null;
let isAskedToKeep = false;
/** The take that was recorded last, on its way into the document. */
let keeping: Promise<void> = Promise.resolve();

/** Opens the bench once, however many islands of the page ask for it. */
export function openBench(): Promise<void> {
  opening ??= open();
  return opening;
}

/** Brings the bench from the other tab to this one: it lets go, and `open` goes on here. */
export const bringBenchHere = askForBench;

async function open(): Promise<void> {
  hold = await takeBench(handAway, () => sessionStore.setState({ kind: "elsewhere" }));
  const project = await firstProject();
  layOut(project);
  startWorker();
  await layOutDevices(project);
  layOutTakes(await store.takesOf(project).catch(() => []));
  follow();
  sessionStore.setState({ kind: "open" });
}

/** Simulated devices keep their numbers from one visit to the next, as real ones do. */
async function layOutDevices(project: Project): Promise<void> {
  tell({ kind: "memories", memories: await store.memoriesOf(project).catch(() => ({})) });
}

/** The demo is fetched when it is asked for: most visits open a project of one's own. */
const freshDemo = async (): Promise<Project> => (await import("@core/demo")).demoProject();

/** The project of last time; else the newest; else the demo. */
async function firstProject(): Promise<Project> {
  try {
    const kept = await store.list();
    const lastId = localStorage.getItem(place);
    const last = kept.find((summary) => summary.id === lastId) ?? kept[0];
    if (last) {
      const read = await store.open(last.id);
      if (read.ok) return read.value;
      notify(`“${last.name}” could not be opened. ${read.problem} It was left as it is; the demo is here meanwhile.`);
      return { ...(await freshDemo()), id: newId() };
    }
    const demo = await freshDemo();
    await store.save(demo, Date.now());
    return demo;
  } catch {
    notify("This browser keeps no data for this page: export your project before you close it.", "warning");
    return freshDemo();
  }
}

/** From now on every change of the document goes to the worker and to the store. */
function follow(): void {
  const { project } = documentStore.getState();
  if (project) {
    recallWires(project.id);
    giveDocument(asWiredHere(project));
    wake(project);
  }
  const unfollowDocument = documentStore.subscribe((now, before) => {
    if (now.project?.id !== before.project?.id) recallWires(now.project?.id ?? "");
    if (now.project && now.project !== before.project) giveDocument(asWiredHere(now.project));
    // Not while the bench is only being looked at.
    if (now.editName !== "" && !isAskedToKeep) {
      isAskedToKeep = true;
      void askToKeep();
    }
  });
  const unfollowWires = wireStore.subscribe(() => {
    const now = documentStore.getState().project;
    if (now) giveDocument(asWiredHere(now));
  });
  unfollow = () => {
    unfollowDocument();
    unfollowWires();
  };
  // The worker opens what this computer has open: it does so by itself once its line to the server stands.
  void import("./remote").then(({ openDoors }) => openDoors());
  autosave = startAutosave(store);
  unwatchHeart = watchHeart();
  store.onCleared = () => void keepAnew();
  // Keys, gamepads and MIDI are listened to a moment later: nobody plays while the page is still coming up.
  void import("./windowInputs").then(({ listenToWindow }) => {
    if (hold) stopDevices = listenToWindow();
  });
  hear("asked", ({ asked }) => asked.forEach(doAsked));
  hear("recorded", ({ recorded }) => {
    keeping = import("./recording").then(({ keepRecorded }) => keepRecorded(store, recorded)).catch(() => {});
  });
  hear("recording", ({ recorded }) => void store.keepRecording(projectId(), recorded).catch(() => {}));
  void import("./recording").then(({ rescueRecording }) => rescueRecording(store));
  hear("memories", ({ memories }) => void store.keepMemories(projectId(), memories).catch(() => {}));
  addEventListener("pointerdown", dragBegins, true);
  for (const end of dragEnds) addEventListener(end, dragIsOver, true);
  addEventListener("pagehide", saveNow);
  addEventListener("beforeunload", askBeforeLeaving);
  document.addEventListener("visibilitychange", saveNow);
}

const projectId = () => documentStore.getState().project?.id ?? "";

/** What a lead's action leaves to the page. */
function doAsked(asked: Asked): void {
  if (asked.kind === "capture") capturePose();
  else if (asked.kind === "tell") notify(asked.sentence, "warning");
}

/** Simulated servos wake held at home; a real one stays limp until a person says otherwise. */
function wake(project: Project): void {
  localStorage.setItem(place, project.id);
  if (asWiredHere(project).boards.every((board) => board.link.kind === "simulated")) command({ kind: "holdAll" });
}

const saveNow = () => void autosave?.flush();
const dragBegins = () => dragging(true);
const dragIsOver = () => dragging(false);
const dragEnds = ["pointerup", "pointercancel", "blur"] as const;

/** Another tab asks for the bench: everything is released and saved before it is let go. */
async function handAway(): Promise<void> {
  const parting = hold;
  if (!parting) return;
  hold = null;
  await endLive();
  // A take that was going on has come over with the release, and is in the document before that is saved.
  await keeping;
  await autosave?.flush();
  autosave?.stop();
  unfollow?.();
  stopDevices?.();
  unwatchHeart?.();
  // What lies here from now on is what this tab had last: the one that has the bench keeps its own.
  store.onCleared = () => {};
  removeEventListener("pointerdown", dragBegins, true);
  for (const end of dragEnds) removeEventListener(end, dragIsOver, true);
  removeEventListener("pagehide", saveNow);
  removeEventListener("beforeunload", askBeforeLeaving);
  document.removeEventListener("visibilitychange", saveNow);
  parting.release();
  sessionStore.setState({ kind: "elsewhere" });
  // When the other tab is closed, the bench comes back here.
  opening = open();
}

/** The browser has cleared what it kept: what lies on the bench is kept anew, with its takes. */
async function keepAnew(): Promise<void> {
  const { project } = documentStore.getState();
  if (!project || !autosave) return;
  await autosave.again();
  for (const take of takesNow().values()) await store.saveTake(project.id, take).catch(() => {});
  notify(
    "This browser has cleared what it kept for Vantel. What lies on the bench is kept anew; other projects are gone.",
    "warning",
  );
}

/** Loads the page again, once all is saved: every wire is closed on the way, and the bench begins anew. */
export async function startAnew(): Promise<void> {
  await autosave?.flush();
  if (saveStore.getState().kind === "failed")
    notify(
      "Your last changes are not saved, and would be lost. Export the project first, then load the page again.",
      "warning",
    );
  else leave(() => location.reload());
}

export const listProjects = (): Promise<ProjectSummary[]> => store.list();

/** Puts another project on the bench; the one that was there is saved first. */
async function change(project: Project, takes: readonly TakeData[] = []): Promise<void> {
  await autosave?.flush();
  command({ kind: "releaseAll" });
  layOutTakes(takes);
  await layOutDevices(project);
  // The document's followers hand it to the worker and to the autosave, which also says when it cannot be saved.
  layOut(project);
  wake(project);
  await autosave?.flush();
  for (const take of takes) await store.saveTake(project.id, take).catch(() => {});
}

export async function openProject(id: string): Promise<Result<null>> {
  const read = await store.open(id);
  if (!read.ok) return read;
  await change(read.value, await store.takesOf(read.value));
  return { ok: true, value: null };
}

/** What lies there of a project that cannot be opened, as a file for whoever can mend it. */
export const damagedProject = (id: string): Promise<string> => store.asItLies(id);

/** A fresh copy of the demo, beside what is there. */
export async function openDemo(): Promise<void> {
  await change({ ...(await freshDemo()), id: newId() });
}

/** An empty bench, beside what is there. */
export async function openEmpty(): Promise<void> {
  await change(emptyProject(newId(), "New bench"));
}

/** Reads a project file and puts it on the bench beside the others. A file that cannot be read changes nothing. */
export async function importProject(text: string): Promise<Result<null>> {
  const read = readProjectFile(text);
  if (!read.ok) return read;
  // Where the browser keeps nothing, no name can be taken.
  const kept = await store.list().catch(() => []);
  const { project, takes } = read.value;
  const isTaken = kept.some((summary) => summary.id === project.id);
  await change(isTaken ? { ...project, id: newId(), name: nameBeside(project.name, kept) } : project, takes);
  return { ok: true, value: null };
}

const nameBeside = (name: string, kept: readonly ProjectSummary[]) => {
  const names = new Set(kept.map((summary) => summary.name));
  for (let copy = 2; ; copy += 1) {
    const candidate = `${name.slice(0, 70)} (${copy})`;
    if (!names.has(candidate)) return names.has(name) ? candidate : name;
  }
};

/** Removes a project from this browser. The one on the bench cannot be removed. */
export async function removeProject(id: string): Promise<Result<null>> {
  if (documentStore.getState().project?.id === id) return problem("This project is on the bench. Open another first.");
  await store.remove(id);
  return { ok: true, value: null };
}

/** The project on the bench as a file. */
export function exportProject(): { readonly name: string; readonly text: string } | null {
  const { project } = documentStore.getState();
  if (!project) return null;
  const slug = project.name.toLowerCase().replace(/[^a-z0-9]+/g, "-");
  return { name: `${slug || "project"}.vantel.json`, text: writeProjectFile(project, takesNow()) };
}

/** Keeps the samples of a take of the project on the bench; an edit may name it afterwards. */
export const keepSamples = (take: TakeData): Promise<void> => {
  const { project } = documentStore.getState();
  return project ? keepTake(store, project, take) : Promise.resolve();
};
