import { type Joint, type Pose, setPoseTarget } from "@core/project";
import { capturePose } from "@stores/capture";
import { edit, useProject } from "@stores/document";
import { showGhost } from "@stores/ghost";
import { posesView, usePosesView } from "@stores/posesView";
import { useCallback, useEffect, useState } from "react";
import { WatchColumn } from "../figure/WatchColumn";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import { Opened } from "../parts/Opened";
import { CaptureSheet } from "./CaptureSheet";
import { PoseList } from "./PoseList";
import { PoseSheet } from "./PoseSheet";
import { SeveralPoses } from "./SeveralPoses";

const TableSheet = lazily(async () => ({ default: (await import("./TableSheet")).TableSheet }));
const MirrorSheet = lazily(async () => ({ default: (await import("./MirrorSheet")).MirrorSheet }));

/** Capture, name, compare, mirror, go to. */
export default function PosesStation() {
  return (
    <Opened isStation>
      <Poses />
    </Opened>
  );
}

function Poses() {
  const poses = useProject((project) => project.poses);
  const chosenIds = usePosesView((view) => view.chosenIds);
  const isAiming = usePosesView((view) => view.isAiming);
  const [open, setOpen] = useState<"table" | "mirror" | "capture" | null>(null);
  const chosen = chosenIds.flatMap((id) => poses.find((pose) => pose.id === id) ?? []);
  const shown = chosen.at(-1) ?? poses.at(-1) ?? null;
  useGhostOf(shown);
  const aimOf = useCallback(
    (joint: Joint) => {
      const value = shown?.targets[joint.id];
      if (!isAiming || !shown || value === undefined) return undefined;
      return {
        value,
        onAim: (target: number) => edit(setPoseTarget(shown.id, joint.id, Math.round(target * 10) / 10)),
      };
    },
    [isAiming, shown],
  );
  const close = () => setOpen(null);
  return (
    <div className="flex h-full flex-col">
      <header className="mb-3 flex items-center gap-2">
        <h1 className="text-[1.45rem] leading-none font-bold tracking-tight">Poses</h1>
        <p className="caption mr-auto">A pose remembers where joints stand.</p>
        <button type="button" className="btn btn-sm btn-ghost" onClick={() => setOpen("mirror")}>
          Left and right
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost"
          disabled={poses.length === 0}
          onClick={() => setOpen("table")}
        >
          As a table
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => setOpen("capture")}>
          Capture some joints
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          title="Capture (C)"
          onClick={() => {
            capturePose();
            posesView.setState({ chosenIds: [], search: "" });
          }}
        >
          Capture a pose <kbd className="text-base-content">C</kbd>
        </button>
      </header>
      {shown ? (
        <div className="grid min-h-0 grow grid-cols-[13.5rem_minmax(0,1.15fr)_minmax(0,1fr)] gap-4">
          <PoseList shownId={shown.id} />
          {chosen.length > 1 ? <SeveralPoses poses={chosen} /> : <PoseSheet pose={shown} />}
          <WatchColumn aimOf={aimOf} />
        </div>
      ) : (
        <div className="sheet mx-auto mt-10 max-w-xl text-center">
          <h2 className="heading text-lg">No poses yet</h2>
          <p className="mt-1">Hold the joints, jog them to where they should stand, then capture.</p>
        </div>
      )}
      <Fetched>
        {open === "table" && <TableSheet poses={chosen.length > 1 ? chosen : poses} onDone={close} />}
        {open === "mirror" && <MirrorSheet onDone={close} />}
        {open === "capture" && <CaptureSheet onDone={close} />}
      </Fetched>
    </div>
  );
}

/** The shown pose stands on every dial as a ghost while one is here. */
function useGhostOf(pose: Pose | null): void {
  useEffect(() => {
    showGhost(pose?.targets ?? null);
    return () => showGhost(null);
  }, [pose]);
}
