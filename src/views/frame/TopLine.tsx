import { noRoutine, poseMove } from "@core/routine";
import { saveStore } from "@stores/autosave";
import { redo, undo, useHistory, useProject } from "@stores/document";
import { command, liveHead, liveJoint, useLive } from "@stores/live";
import { layOver, overBench, putAway } from "@stores/overBench";
import { nextTheme, themeStore } from "@stores/theme";
import { Keyboard, Moon, Redo2, Search, Sun, SunMoon, Undo2 } from "lucide-react";
import { useCallback, useEffect, useState } from "react";
import { useStore } from "zustand";
import { Fetched } from "../parts/Fetched";
import { Apart } from "../parts/Guard";
import { lazily } from "../parts/lazily";
import { Opened } from "../parts/Opened";
import { ReleaseAll } from "../parts/ReleaseAll";
import { watchCrossings } from "./crossing";
import { tellFaults } from "./faults";
import { listenToKeys } from "./keys";
import { LinkWords } from "./LinkWords";
import { linksId } from "./linksId";
import { ProjectMenu } from "./ProjectMenu";

// Loaded when first asked for: neither is part of what a page needs to show itself.
const Palette = lazily(() => import("./Palette"));
const KeySheet = lazily(() => import("./KeySheet"));
const SymptomSheet = lazily(() => import("./SymptomSheet"));
const Gifts = lazily(() => import("./Gifts"));
const NewerWords = lazily(() => import("./NewerWords"));
const RemoteWords = lazily(() => import("./RemoteWords"));

/** Project, link, who has control, undo and redo, and the one loud control: whatever else breaks, that stays. */
export function TopLine() {
  return (
    <div className="flex h-full items-center gap-2 px-3 xl:gap-3">
      <a
        href="/"
        className="flex items-center gap-2 text-[1.15rem] font-bold tracking-tight"
        title="The whole bench (0)"
      >
        <img src="/icon.svg" alt="" className="size-7" />
        Vantel
      </a>
      <Opened>
        <TopControls />
      </Opened>
    </div>
  );
}

function TopControls() {
  const open = useStore(overBench, ({ sheet }) => sheet);
  const isGift = useHasHash();
  useEffect(watchCrossings, []);
  useEffect(tellFaults, []);
  useEffect(() => listenToKeys(), []);
  return (
    <>
      <Apart>
        <ProjectMenu />
        <SavedWords />
      </Apart>
      <Fetched>
        <NewerWords />
      </Fetched>
      <span className="grow" />
      <Apart>
        <LinkWords listId={linksId} />
      </Apart>
      <Apart>
        <ControlWords />
      </Apart>
      <Fetched>
        <RemoteWords />
      </Fetched>
      <span className="grow" />
      <HistoryButtons />
      <ThemeButton />
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square"
        title="Find a command (Ctrl K)"
        onClick={() => layOver({ kind: "palette" })}
      >
        <Search size={17} aria-hidden="true" />
        <span className="sr-only">Find a command</span>
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square"
        title="Key sheet (?)"
        onClick={() => layOver({ kind: "keys" })}
      >
        <Keyboard size={18} aria-hidden="true" />
        <span className="sr-only">Key sheet</span>
      </button>
      <span className="flex shrink-0 items-center gap-2">
        <Apart>
          <HoldAll />
        </Apart>
        <ReleaseAll className="btn-sm" />
      </span>
      <Fetched>
        {open?.kind === "palette" && <Palette onClose={putAway} />}
        {open?.kind === "keys" && <KeySheet onClose={putAway} />}
        {open?.kind === "symptoms" && <SymptomSheet symptomId={open.id} onClose={putAway} />}
        {isGift && <Gifts />}
      </Fetched>
    </>
  );
}

/** Whether something stands behind the # of the address: only a gift ever does. */
function useHasHash(): boolean {
  const [has, setHas] = useState(false);
  useEffect(() => {
    const look = () => setHas((before) => before || location.hash.length > 1);
    look();
    window.addEventListener("hashchange", look);
    return () => window.removeEventListener("hashchange", look);
  }, []);
  return has;
}

function SavedWords() {
  const save = useStore(saveStore);
  const words = "sentence" in save ? save.sentence : save.kind === "waiting" ? "Saving…" : "Saved";
  const look = { failed: "max-w-64 text-sm leading-tight text-error", slow: "max-w-64 text-xs leading-tight" };
  return (
    <span
      className={save.kind === "failed" || save.kind === "slow" ? look[save.kind] : "caption w-14"}
      aria-live="polite"
    >
      {words}
    </span>
  );
}

/** What plays, or that the person's own hand has the bench. */
function ControlWords() {
  const index = useLive(useCallback(() => liveHead("routineIndex"), []));
  const routine = useProject((project) => project.routines[index]?.name);
  const words =
    index === poseMove ? "Going to a pose" : index === noRoutine || !routine ? "In your hands" : `Playing ${routine}`;
  return (
    <span className="flex min-w-0 items-center gap-2">
      <span className="max-w-56 truncate text-sm">{words}</span>
      {index !== noRoutine && Number.isFinite(index) && (
        <button
          type="button"
          className="btn btn-outline btn-xs"
          title="Stop and hold (S)"
          onClick={() => command({ kind: "stop" })}
        >
          Stop
        </button>
      )}
    </span>
  );
}

function HistoryButtons() {
  const { undoes, redoes } = useHistory();
  return (
    <span className="join">
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square join-item"
        disabled={undoes === null}
        title={undoes === null ? "Nothing to undo" : `Undo: ${undoes} (Ctrl Z)`}
        onClick={undo}
      >
        <Undo2 size={18} aria-hidden="true" />
        <span className="sr-only">{undoes === null ? "Undo" : `Undo: ${undoes}`}</span>
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-sm btn-square join-item"
        disabled={redoes === null}
        title={redoes === null ? "Nothing to redo" : `Redo: ${redoes} (Ctrl Shift Z)`}
        onClick={redo}
      >
        <Redo2 size={18} aria-hidden="true" />
        <span className="sr-only">{redoes === null ? "Redo" : `Redo: ${redoes}`}</span>
      </button>
    </span>
  );
}

const themeIcons = { system: SunMoon, day: Sun, night: Moon };

function ThemeButton() {
  const choice = useStore(themeStore, (theme) => theme.choice);
  const Icon = themeIcons[choice];
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm btn-square"
      title={`Theme: ${choice} (T)`}
      onClick={nextTheme}
    >
      <Icon size={18} aria-hidden="true" />
      <span className="sr-only">Theme: {choice}</span>
    </button>
  );
}

/** Appears once something is limp; Release all is always there. */
function HoldAll() {
  const joints = useProject((project) => project.joints);
  const limp = useLive(
    useCallback(() => joints.filter((joint) => liveJoint(joint.id, "isHeld") === 0).length, [joints]),
  );
  if (limp === 0) return null;
  return (
    <button type="button" className="btn btn-outline btn-sm" onClick={() => command({ kind: "holdAll" })}>
      Hold all <span className="caption">({limp} limp)</span>
    </button>
  );
}
