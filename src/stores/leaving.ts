import { saveStore } from "./autosave";
import { documentStore } from "./document";
import { linkStore, liveJoint } from "./live";

let isMeant = false;

/** The page is left on purpose: nobody is asked again. */
export function leave(how: () => void): void {
  isMeant = true;
  how();
}

/** A page that is left lets every real servo go, an arm falls, and what could not be saved is lost: then the browser asks first. */
export function askBeforeLeaving(event: BeforeUnloadEvent): void {
  if (!isMeant && (isHoldingForReal() || isUnsaved())) event.preventDefault();
}

function isHoldingForReal(): boolean {
  const real = new Set(
    linkStore.getState().flatMap((link) => (link.isReal && link.state === "live" ? link.boardId : [])),
  );
  const joints = documentStore.getState().project?.joints ?? [];
  return joints.some(({ id, boardId }) => real.has(boardId) && liveJoint(id, "isHeld") === 1);
}

const isUnsaved = () => ["failed", "slow"].includes(saveStore.getState().kind);
