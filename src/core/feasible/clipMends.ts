import { changeClip } from "@core/project";
import { mendKind, seconds } from "./mendKind";

/** Mends of a clip. */
export const clipMends = {
  clip: mendKind<{ readonly clipId: string; readonly stretch: number }>({
    words: ({ stretch }) => `Stretch the clip to ${(stretch * 100).toFixed(0)} %`,
    edit: (routine, { clipId, stretch }) => changeClip(routine.id, clipId, "stretch", (clip) => ({ ...clip, stretch })),
  }),
  fade: mendKind<{ readonly clipId: string; readonly fadeInMs: number; readonly fadeOutMs: number }>({
    words: ({ fadeInMs, fadeOutMs }) => `Fade the clip over ${seconds(Math.max(fadeInMs, fadeOutMs))}`,
    edit: (routine, mend) =>
      changeClip(routine.id, mend.clipId, "fades", (clip) => {
        const fadeInMs = Math.max(clip.fadeInMs, mend.fadeInMs);
        const fadeOutMs = Math.max(clip.fadeOutMs, mend.fadeOutMs);
        // Together they are no longer than the clip.
        const fits = Math.min(
          1,
          ((clip.toMs - clip.fromMs) * clip.stretch * 0.999) / Math.max(fadeInMs + fadeOutMs, 1),
        );
        return { ...clip, fadeInMs: fadeInMs * fits, fadeOutMs: fadeOutMs * fits };
      }),
  }),
};
