import { navigate } from "astro:transitions/client";
import type { Command } from "@core/engine";
import { type JogSize, jogSteps } from "@core/rig";
import { noRoutine } from "@core/routine";
import { capturePose } from "@stores/capture";
import { projectNow, redo, undo } from "@stores/document";
import { command, liveHead } from "@stores/live";
import { layOver } from "@stores/overBench";
import { scoreView } from "@stores/scoreView";
import { selectedJointNow } from "@stores/selection";
import { exportProject, openDemo, openEmpty } from "@stores/session";
import { nextTheme } from "@stores/theme";
import { saveFile } from "../parts/saveFile";
import { stations } from "../stations";

/** Something a person can have done: from the palette, by a key, or both. */
export interface Action {
  readonly id: string;
  readonly name: string;
  readonly group: "Motion" | "Go to" | "Project" | "View" | "Joint" | "Pose" | "Routine" | "What is wrong?";
  /** As shown on the key sheet, and as `keyOf` names a key press. */
  readonly keys?: readonly string[];
  /** Done again and again while its key is held down. */
  readonly repeats?: boolean;
  readonly run: () => void;
}

/** Gives one jog to the selected joint. */
function jog(steps: number, size: JogSize): void {
  const joint = selectedJointNow();
  if (!joint) return;
  const unit = joint.axis.kind === "angle" ? "°" : "spin";
  command({ kind: "jog", jointId: joint.id, by: steps * jogSteps[unit][size], in: "target" });
}

const forSelected = (run: (jointId: string) => void) => () => {
  const joint = selectedJointNow();
  if (joint) run(joint.id);
};

export const releaseAll = (): void => command({ kind: "releaseAll" });

/** Pauses what plays, goes on with what stands still, or starts the routine that was open last. */
function playOrPause(): void {
  const { routines } = projectNow();
  const { routineId, cursorMs } = scoreView.getState();
  const routine = routines.find(({ id }) => id === routineId) ?? routines[0];
  command(routine ? { kind: "playOrPause", routineId: routine.id, fromMs: cursorMs } : { kind: "pause" });
}

/** Gives a command only while something plays: else there is nothing to say no to. */
function whilePlaying(given: Command): () => void {
  return () => {
    if (liveHead("routineIndex") !== noRoutine) command(given);
  };
}

export const fixedActions: readonly Action[] = [
  { id: "release-all", name: "Release all", group: "Motion", keys: ["Escape"], run: releaseAll },
  { id: "hold-all", name: "Hold all", group: "Motion", run: () => command({ kind: "holdAll" }) },
  {
    id: "hold",
    name: "Hold or release the selected joint",
    group: "Motion",
    keys: ["H"],
    run: forSelected((jointId) => command({ kind: "holdOrRelease", jointId })),
  },
  {
    id: "home",
    name: "Send the selected joint home",
    group: "Motion",
    keys: ["G"],
    run: forSelected((jointId) => command({ kind: "home", jointId })),
  },
  { id: "jog-down", name: "Jog down", group: "Motion", keys: [","], repeats: true, run: () => jog(-1, "normal") },
  { id: "jog-up", name: "Jog up", group: "Motion", keys: ["."], repeats: true, run: () => jog(1, "normal") },
  {
    id: "jog-down-coarse",
    name: "Jog down, coarse",
    group: "Motion",
    keys: ["Shift+,"],
    repeats: true,
    run: () => jog(-1, "coarse"),
  },
  {
    id: "jog-up-coarse",
    name: "Jog up, coarse",
    group: "Motion",
    keys: ["Shift+."],
    repeats: true,
    run: () => jog(1, "coarse"),
  },
  {
    id: "jog-down-fine",
    name: "Jog down, fine",
    group: "Motion",
    keys: ["Alt+,"],
    repeats: true,
    run: () => jog(-1, "fine"),
  },
  {
    id: "jog-up-fine",
    name: "Jog up, fine",
    group: "Motion",
    keys: ["Alt+."],
    repeats: true,
    run: () => jog(1, "fine"),
  },
  {
    id: "stop",
    name: "Stop what plays, and hold",
    group: "Motion",
    keys: ["S"],
    run: whilePlaying({ kind: "stop" }),
  },
  {
    id: "pause",
    name: "Play, pause, or go on",
    group: "Motion",
    keys: ["P"],
    run: playOrPause,
  },
  { id: "next", name: "Next step", group: "Motion", keys: ["N"], run: whilePlaying({ kind: "skip", by: 1 }) },
  {
    id: "previous",
    name: "Step before",
    group: "Motion",
    keys: ["Shift+N"],
    run: whilePlaying({ kind: "skip", by: -1 }),
  },
  { id: "capture", name: "Capture a pose", group: "Pose", keys: ["C"], run: () => capturePose() },
  { id: "undo", name: "Undo", group: "Project", keys: ["Ctrl+Z"], repeats: true, run: undo },
  { id: "redo", name: "Redo", group: "Project", keys: ["Ctrl+Shift+Z", "Ctrl+Y"], repeats: true, run: redo },
  {
    id: "export",
    name: "Export the project as a file",
    group: "Project",
    run: () => {
      const file = exportProject();
      if (file) saveFile(file.name, file.text, "application/json");
    },
  },
  { id: "empty", name: "Lay out an empty bench", group: "Project", run: () => void openEmpty() },
  { id: "demo", name: "Lay out a fresh demo", group: "Project", run: () => void openDemo() },
  { id: "theme", name: "Next theme: system, day, night", group: "View", keys: ["T"], run: nextTheme },
  {
    id: "wrong",
    name: "Say what a servo does wrong",
    group: "What is wrong?",
    keys: ["Q"],
    run: () => layOver({ kind: "symptoms", id: null }),
  },
  { id: "cards", name: "Card file", group: "Go to", keys: ["K"], run: () => void navigate("/cards") },
  { id: "overview", name: "The whole bench", group: "Go to", keys: ["0"], run: () => void navigate("/") },
  ...stations.map(
    (station): Action => ({
      id: `go-${station.id}`,
      name: station.label,
      group: "Go to",
      keys: [station.key],
      run: () => void navigate(`/${station.id}`),
    }),
  ),
];

/** The actions that have keys: these do not change with the project. */
export const keyedActions: readonly Action[] = fixedActions.filter((action) => action.keys);
