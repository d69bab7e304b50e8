import { busStore } from "@stores/bus";
import { useStore } from "zustand";

/** How far something is that takes many exchanges; nothing while nothing runs. */
export function RunBar() {
  const running = useStore(busStore, (bus) => bus.running);
  if (!running) return null;
  const { progress } = running;
  return (
    <div>
      <progress
        className="progress progress-primary w-full"
        value={progress?.done ?? 0}
        max={progress?.of || 1}
        aria-label="How far it is"
      />
      <p className="caption">{progress?.at ?? "Waiting for the wire"}</p>
    </div>
  );
}
