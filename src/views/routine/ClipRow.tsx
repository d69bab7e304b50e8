import { type Clip, changeClip, type Routine, removeClips } from "@core/project";
import { endOfClip } from "@core/routine";
import { edit, editForField, useProject } from "@stores/document";
import { scoreView, snapped, useScoreView } from "@stores/scoreView";
import { openTab } from "@stores/stationTabs";
import type { KeyboardEvent } from "react";
import { useDrag } from "../parts/useDrag";
import { endOf, gutterPx, type TimeScale, xOf } from "./timeScale";

interface ClipRowProps {
  readonly routine: Routine;
  readonly scale: TimeScale;
}

const rowPx = 22;

/** Takes as slips of paper on the time, the upper ones above the lower. Slips are dragged, their ends trim, with Alt they stretch. */
export function ClipRow({ routine, scale }: ClipRowProps) {
  const takes = useProject((project) => project.takes);
  const rows = layersOf(routine.clips);
  const height = rowPx * Math.min(4, Math.max(...rows) + 1);
  return (
    <div className="flex shrink-0 border-b border-base-300">
      <div className="caption shrink-0 truncate pt-0.5 pl-2" style={{ width: gutterPx }}>
        takes
      </div>
      <div className="relative grow overflow-x-hidden overflow-y-auto shows-more" style={{ height: height + 4 }}>
        {routine.clips.map((clip, at) => {
          const isSeen = endOfClip(clip) >= scale.fromMs && clip.atMs <= endOf(scale);
          const name = takes.find((take) => take.id === clip.takeId)?.name ?? "?";
          return (
            isSeen && <Slip key={clip.id} routine={routine} clip={clip} name={name} scale={scale} row={rows[at] ?? 0} />
          );
        })}
      </div>
    </div>
  );
}

/** A row for each clip, so that none covers another: the first in which it has room. */
function layersOf(clips: readonly Clip[]): readonly number[] {
  const ends: number[] = [];
  return clips.map((clip) => {
    const free = ends.findIndex((end) => end <= clip.atMs);
    const row = free < 0 ? ends.length : free;
    ends[row] = endOfClip(clip);
    return row;
  });
}

interface SlipProps extends ClipRowProps {
  readonly clip: Clip;
  readonly name: string;
  readonly row: number;
}

function Slip({ routine, clip, name, scale, row }: SlipProps) {
  const isChosen = useScoreView((view) => view.clipIds.includes(clip.id));
  const width = Math.max(6, (endOfClip(clip) - clip.atMs) / scale.msPerPx);
  const put = (next: Clip) => editForField(changeClip(routine.id, clip.id, "place", () => next));
  const drag = useDrag<{ readonly clip: Clip; readonly part: ClipPart }, HTMLButtonElement>({
    begin(event) {
      openTab("routine", "takes");
      scoreView.setState({ clipIds: [clip.id], stepIds: [], keys: [] });
      const rect = event.currentTarget.getBoundingClientRect();
      const px = event.clientX - rect.left;
      return { clip, part: px < 7 ? "from" : px > rect.width - 7 ? "to" : "all" };
    },
    move(held, event, way) {
      const snap = (ms: number) => snapped(ms, scale.msPerPx, event.ctrlKey);
      // Where it cannot lie it stays for now: a drag goes on.
      put(dragged(held.clip, held.part, way.x * scale.msPerPx, event.altKey, snap));
    },
    cancel: (held) => put(held.clip),
    leastPx: 3,
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const way = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (way !== 0) {
      const byMs = way * (event.shiftKey ? 500 : 20);
      edit(changeClip(routine.id, clip.id, "place", (one) => ({ ...one, atMs: Math.max(0, one.atMs + byMs) })));
    } else if (event.key === "Delete" || event.key === "Backspace") edit(removeClips(routine.id, new Set([clip.id])));
    else return;
    event.preventDefault();
  };
  return (
    <button
      type="button"
      data-clip={clip.id}
      aria-pressed={isChosen}
      aria-label={`Clip of ${name}`}
      title={`${name}: drag; its ends trim, with Alt they stretch`}
      className={`absolute h-5 cursor-grab touch-none truncate border border-dashed px-2 text-left text-[0.72rem] leading-4 focus-visible:-outline-offset-2 ${isChosen ? "z-10 border-2 border-secondary bg-secondary/25 font-bold" : "border-secondary bg-secondary/15"} ${clip.isMuted ? "italic opacity-60" : ""}`}
      style={{ left: xOf(scale, clip.atMs), width, top: 2 + row * rowPx }}
      {...drag}
      onKeyDown={onKeyDown}
    >
      {name}
      {clip.isMuted ? ", muted" : clip.mode === "add" ? ", on top" : ""}
    </button>
  );
}

type ClipPart = "all" | "from" | "to";

/** A clip after its body or one of its ends was dragged. The fades give way where it becomes too short for them. */
function dragged(clip: Clip, part: ClipPart, byMs: number, isStretch: boolean, snap: (ms: number) => number): Clip {
  if (part === "all") return { ...clip, atMs: snap(Math.max(0, clip.atMs + byMs)) };
  const endMs = endOfClip(clip);
  if (part === "from") {
    const atMs = snap(Math.max(0, Math.min(endMs - 40, clip.atMs + byMs)));
    if (isStretch) return { ...clip, atMs, stretch: (endMs - atMs) / (clip.toMs - clip.fromMs) };
    const fromMs = Math.max(0, clip.fromMs + (atMs - clip.atMs) / clip.stretch);
    return shortFades({ ...clip, atMs: clip.atMs + (fromMs - clip.fromMs) * clip.stretch, fromMs });
  }
  const toMs = snap(Math.max(clip.atMs + 40, endMs + byMs));
  if (isStretch) return { ...clip, stretch: (toMs - clip.atMs) / (clip.toMs - clip.fromMs) };
  return shortFades({ ...clip, toMs: clip.fromMs + (toMs - clip.atMs) / clip.stretch });
}

function shortFades(clip: Clip): Clip {
  const roomMs = (clip.toMs - clip.fromMs) * clip.stretch;
  const asked = clip.fadeInMs + clip.fadeOutMs;
  if (asked <= roomMs) return clip;
  return { ...clip, fadeInMs: (clip.fadeInMs * roomMs) / asked, fadeOutMs: (clip.fadeOutMs * roomMs) / asked };
}
