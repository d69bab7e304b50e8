import { byId } from "@core/project";
import { framePeriodsUs } from "@core/signal";
import { useProject } from "@stores/document";
import { askSimulation, lineStore, linkStore, liveHead, watchLines } from "@stores/live";
import { useCallback, useEffect, useId, useState } from "react";
import { useStore } from "zustand";
import { counted, formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";

const stateWords = {
  greeting: "greeting…",
  live: "live",
  lost: "silent",
  refused: "not driven",
} as const;

/** The state of the links in words, and behind it each board with its cadence and the very line that leaves for it. */
export function LinkWords() {
  const links = useStore(linkStore);
  const boards = useProject((project) => project.boards);
  const id = useId();
  const [isOpen, setIsOpen] = useState(false);
  const troubled = links.filter((link) => link.state === "lost" || link.state === "refused");
  const labelOf = (boardId: string) => boards.find((board) => board.id === boardId)?.label ?? "A board";
  const words =
    links.length === 0
      ? "No links yet"
      : troubled.length > 0
        ? troubled.map((link) => `${labelOf(link.boardId)} is ${stateWords[link.state]}`).join(", ")
        : links.every((link) => link.state === "live")
          ? `${counted(links.length, "simulated board")}, live`
          : "Greeting the boards…";
  return (
    <>
      <button
        type="button"
        popoverTarget={id}
        style={{ anchorName: "--links" } as React.CSSProperties}
        className={`btn btn-ghost btn-sm min-w-10 shrink gap-2 font-normal ${troubled.length > 0 ? "text-error" : ""}`}
        aria-live="polite"
      >
        <svg viewBox="0 0 12 12" className="size-3 shrink-0" aria-hidden="true">
          {troubled.length > 0 ? (
            <path d="M2 2L10 10M10 2L2 10" className="stroke-error" strokeWidth={2.4} />
          ) : (
            <circle cx={6} cy={6} r={4} className="fill-success" />
          )}
        </svg>
        <span className="truncate">{words}</span>
      </button>
      <div
        id={id}
        popover="auto"
        onToggle={(event) => setIsOpen(event.newState === "open")}
        style={{ positionAnchor: "--links" } as React.CSSProperties}
        className="dropdown dropdown-center mt-1 w-[34rem] rounded-box border border-base-300 bg-base-200 p-4 text-base-content shadow-xl"
      >
        {isOpen && <LinkTable />}
      </div>
    </>
  );
}

function LinkTable() {
  const links = useStore(linkStore);
  const lines = useStore(lineStore);
  const boards = useProject((project) => project.boards);
  useEffect(() => {
    watchLines(true);
    return () => watchLines(false);
  }, []);
  const readLate = useCallback(() => `${formatNumber(liveHead("late99Ms"), 1)} ms`, []);
  const readFrames = useCallback(() => formatNumber(liveHead("frames"), 0), []);
  const readMissed = useCallback(() => formatNumber(liveHead("missedFrames"), 0), []);
  return (
    <div className="space-y-3">
      {links.map((link) => {
        const board = byId(boards, link.boardId);
        return (
          <div key={link.boardId} className="border-b border-base-300 pb-3">
            <div className="flex items-baseline gap-3">
              <span className="heading">{board.label}</span>
              <span className="caption">
                simulated, {stateWords[link.state]},{" "}
                {framePeriodsUs(board)
                  .map((us) => formatNumber(1e6 / us, 2))
                  .join(" / ")}{" "}
                frames a second; after {board.silence.afterMs} ms of silence it {board.silence.action}s
              </span>
              <button
                type="button"
                className="btn btn-outline btn-xs ml-auto"
                onClick={() => askSimulation(link.boardId, { kind: "plug", isPlugged: !link.isPlugged })}
              >
                {link.isPlugged ? "Pull the plug" : "Plug it in"}
              </button>
            </div>
            {link.sentence && <p className="text-sm text-error">{link.sentence}</p>}
            <code className="number mt-1 block min-h-5 text-xs break-all">{lines[link.boardId] ?? ""}</code>
          </div>
        );
      })}
      <p className="caption" data-readout="cadence">
        <LiveText read={readFrames} /> frames to all boards so far; 99 of 100 leave less than{" "}
        <LiveText read={readLate} /> late; left out so far: <LiveText read={readMissed} />
      </p>
    </div>
  );
}
