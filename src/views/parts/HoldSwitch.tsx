import type { Joint } from "@core/project";
import { command } from "@stores/live";
import { useIsHeld } from "./useIsHeld";

/** Hold and release, side by side: the one in force is filled. */
export function HoldSwitch({ joint }: { readonly joint: Joint }) {
  const isHeld = useIsHeld(joint.id);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset brings a frame that this switch has not.
    <div className="join" role="group" aria-label={`Signal to ${joint.label}`}>
      <button
        type="button"
        className={`btn btn-sm join-item ${isHeld ? "btn-neutral" : "btn-outline"}`}
        aria-pressed={isHeld}
        title="Keep sending, so that it resists (H)"
        onClick={() => command({ kind: "hold", jointId: joint.id })}
      >
        Hold
      </button>
      <button
        type="button"
        className={`btn btn-sm join-item ${isHeld ? "btn-outline" : "btn-neutral"}`}
        aria-pressed={!isHeld}
        title="Stop sending, so that it goes limp (H)"
        onClick={() => command({ kind: "release", jointId: joint.id })}
      >
        Release
      </button>
    </div>
  );
}
