import { addClip, addTake, allOf, type Clip, lengthOfTake, type Take, type TakeData } from "@core/project";
import type { LoopRange } from "@core/routine";
import type { Recorded } from "@core/take";
import type { ProjectStore } from "@storage/projectStore";
import { documentStore, edit, newId, projectNow } from "./document";
import { command } from "./live";
import { notify } from "./notices";
import { keepTake } from "./takes";

export interface RecordAsk {
  readonly jointIds: readonly string[];
  /** The routine that plays meanwhile, and that gets the take as a clip; null for a take alone. */
  readonly routineId: string | null;
  readonly fromMs: number;
  readonly countInMs: number;
  readonly punch: LoopRange | null;
  readonly byHand: boolean;
}

let asked: RecordAsk | null = null;

export function startRecording(ask: RecordAsk): void {
  asked = ask;
  command({ kind: "record", ...ask });
}

type TakeKeeper = Pick<ProjectStore, "saveTake" | "keepRecording">;

/** What was being recorded when the page died becomes a take of its own. */
export async function rescueRecording(store: TakeKeeper & Pick<ProjectStore, "recordingOf">): Promise<void> {
  const opened = documentStore.getState().project;
  if (!opened) return;
  const left = await store.recordingOf(opened.id).catch(() => null);
  // Another project may have been opened meanwhile: what was left stays for the one it belongs to.
  if (documentStore.getState().project?.id !== opened.id) return;
  const known = new Set(opened.joints.map((joint) => joint.id));
  if (!left?.jointIds.every((id) => known.has(id))) return;
  asked = null;
  await keepRecorded(store, left, "rescued");
}

/** Keeps what was recorded as a take, and places it in the routine it was recorded over: one step to undo. */
export async function keepRecorded(store: TakeKeeper, recorded: Recorded, how = "kept"): Promise<void> {
  const project = projectNow();
  const { take, data } = takeOf(recorded, `Take ${project.takes.length + 1}`);
  await keepTake(store, project, data);
  await store.keepRecording(project.id, null).catch(() => {});
  const routine = projectNow().routines.find((one) => one.id === asked?.routineId);
  const place = routine ? [addClip(routine.id, wholeClip(take, recorded.fromMs))] : [];
  if (!edit(allOf("Record take", [addTake(take), ...place]))) return;
  const seconds = (lengthOfTake(take) / 1000).toFixed(1);
  notify(
    `${take.name} is ${how}: ${seconds} s of ${take.jointIds.length} ${take.jointIds.length > 1 ? "joints" : "joint"}.`,
  );
}

/** A clip of all of a take, at a moment. */
export const wholeClip = (take: Take, atMs: number): Clip => ({
  id: newId(),
  takeId: take.id,
  atMs,
  fromMs: 0,
  toMs: lengthOfTake(take),
  stretch: 1,
  fadeInMs: 0,
  fadeOutMs: 0,
  mode: "replace",
  jointIds: null,
  isMuted: false,
});

/** Samples as a take with an id of its own. */
export function takeOf(
  { jointIds, frameMs, channels }: Pick<Recorded, "jointIds" | "frameMs" | "channels">,
  name: string,
): { readonly take: Take; readonly data: TakeData } {
  const id = newId();
  return {
    take: {
      id,
      name,
      madeAt: new Date().toISOString(),
      frameMs,
      frames: channels[0]?.length ?? 0,
      jointIds: [...jointIds],
    },
    data: { id, channels: Object.fromEntries(jointIds.map((jointId, at) => [jointId, channels[at] as Float32Array])) },
  };
}
