import { useProject } from "@stores/document";
import { heartStore } from "@stores/heart";
import { linkStore } from "@stores/live";
import { useId, useState } from "react";
import { useStore } from "zustand";
import { Fetched } from "../parts/Fetched";
import { counted } from "../parts/format";
import { lazily } from "../parts/lazily";
import { stateOf } from "./linkState";

const LinkSheet = lazily(() => import("./LinkSheet"));

const liveWords = (real: number, all: number): string =>
  real === 0
    ? `${counted(all, "simulated board")}, live`
    : real === all
      ? `${counted(all, "board")}, live`
      : `${counted(real, "board")} and ${all - real} simulated, live`;

const heartWords = { still: "The bench does not answer", ended: "The bench was ended" } as const;

/** The state of the links in words, and behind it each board with its cadence and the very line that leaves for it. */
export function LinkWords({ listId }: { readonly listId?: string }) {
  const links = useStore(linkStore);
  const boards = useProject((project) => project.boards);
  const { heart } = useStore(heartStore);
  // Of the links that there are, not of those that the document has from now on: a wire is not live because it was chosen.
  const real = links.filter(({ isReal }) => isReal).length;
  const ownId = useId();
  const id = listId ?? ownId;
  const [isOpen, setIsOpen] = useState(false);
  const troubled = links.filter((link) => link.state === "lost" || link.state === "refused" || link.life === "lost");
  const labelOf = (boardId: string) => boards.find((board) => board.id === boardId)?.label ?? "A board";
  const isTroubled = heart !== "beats" || troubled.length > 0;
  const words =
    heart !== "beats"
      ? heartWords[heart]
      : links.length === 0
        ? "No links yet"
        : troubled.length > 0
          ? troubled.map((link) => `${labelOf(link.boardId)} is ${stateOf(link)}`).join(", ")
          : links.every((link) => link.state === "live")
            ? liveWords(real, links.length)
            : "Greeting the boards…";
  return (
    <>
      <button
        type="button"
        popoverTarget={id}
        style={{ anchorName: "--links" } as React.CSSProperties}
        className={`btn btn-ghost btn-sm min-w-10 shrink gap-2 font-normal ${isTroubled ? "text-error" : ""}`}
        aria-live="polite"
      >
        <svg viewBox="0 0 12 12" className="size-3 shrink-0" aria-hidden="true">
          {isTroubled ? (
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
        className="dropdown dropdown-center mt-1 max-h-[calc(100vh-5rem)] w-[36rem] overflow-y-auto rounded-box border border-base-300 bg-base-200 p-4 text-base-content shadow-xl"
      >
        {isOpen && (
          <Fetched fallback={<p className="caption">…</p>}>
            <LinkSheet />
          </Fetched>
        )}
      </div>
    </>
  );
}
