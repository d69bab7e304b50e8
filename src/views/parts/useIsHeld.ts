import type { Joint } from "@core/project";
import { linkStore, liveJoint, useLive } from "@stores/live";
import { useCallback } from "react";
import { useStore } from "zustand";

/** Whether a signal is being sent to a joint now. */
export const useIsHeld = (jointId: string): boolean =>
  useLive(useCallback(() => liveJoint(jointId, "isHeld") === 1, [jointId]));

/** Whether what is asked of a joint reaches its servo: it is held, and its board answers. */
export function useIsDriven(joint: Joint): boolean {
  const isHeld = useIsHeld(joint.id);
  const isLive = useStore(linkStore, (links) => links.find((link) => link.boardId === joint.boardId)?.state === "live");
  return isHeld && isLive;
}
