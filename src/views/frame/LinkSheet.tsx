import type { Board } from "@core/project";
import { framePeriodsUs, wireTooSlow } from "@core/signal";
import { wireWords } from "@core/wire";
import { edit, useProject } from "@stores/document";
import { heartStore } from "@stores/heart";
import { askSimulation, healthStore, lineStore, linkStore, liveHead, watchLines } from "@stores/live";
import { startAnew } from "@stores/session";
import { closeWire, openWire, takingOver, useIsReal } from "@stores/wires";
import { useCallback, useEffect, useState } from "react";
import { useStore } from "zustand";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { LastMinute } from "./LastMinute";
import { stateOf } from "./linkState";
import { WireChoice } from "./WireChoice";

type Link = ReturnType<typeof linkStore.getState>[number];

/** Each board with its wire, how that does, what the board says of itself, and the very line that leaves for it. */
export default function LinkSheet() {
  const links = useStore(linkStore);
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
      <Heart />
      {links.map((link) => {
        // A link that is still told of may be that of a board that was just taken off.
        const board = boards.find(({ id }) => id === link.boardId);
        return board && <BoardLink key={link.boardId} link={link} board={board} />;
      })}
      <p className="caption" data-readout="cadence">
        <LiveText read={readFrames} /> frames to all boards so far; 99 of 100 leave less than{" "}
        <LiveText read={readLate} /> late; left out so far: <LiveText read={readMissed} />
      </p>
    </div>
  );
}

/** What is to be known, and done, when what drives the servos is not heard. */
function Heart() {
  const { heart } = useStore(heartStore);
  if (heart === "beats") return null;
  return (
    <section className="space-y-2 border-b border-base-300 pb-3" role="alert">
      <p>
        {heart === "still"
          ? "What drives the servos has not been heard for some seconds. Nothing leaves for the boards meanwhile: each does what it was set to do after silence. If it is not heard soon, start it anew; Release all ends it first."
          : "What drives the servos did not answer to Release all, and was ended. Its wires are closed: each board does what it was set to do after silence. One that was set to hold on holds on: switch its supply off."}
      </p>
      <button type="button" className="btn btn-primary btn-sm" onClick={() => void startAnew()}>
        Start the bench anew
      </button>
    </section>
  );
}

function BoardLink({ link, board }: { readonly link: Link; readonly board: Board }) {
  const [isChoosing, setIsChoosing] = useState(false);
  const line = useStore(lineStore, (lines) => lines[board.id] ?? "");
  const isReal = board.link.kind !== "simulated";
  const isOpened = useIsReal(board);
  const joints = useProject((project) => project.joints);
  const channels = joints.filter(({ boardId }) => boardId === board.id).map(({ channel }) => channel);
  const tooSlow = "bitsPerS" in board.link ? wireTooSlow(board, channels, board.link.bitsPerS) : null;
  const rates = [...new Set(framePeriodsUs(board).map((us) => formatNumber(1e6 / us, 2)))];
  return (
    <section className="border-b border-base-300 pb-3" aria-label={`Link to ${board.label}`}>
      <div className="flex items-baseline gap-2">
        <h2 className="heading">{board.label}</h2>
        <p className="caption grow">
          {isOpened ? `on ${wireWords(board.link)}` : "simulated"}, {stateOf(link)}, {rates.join(" / ")} frames a
          second; after {board.silence.afterMs} ms of silence it {board.silence.action}s
        </p>
        {isOpened ? (
          <button type="button" className="btn btn-outline btn-xs" onClick={() => closeWire(board.id)}>
            Close the wire
          </button>
        ) : (
          <button
            type="button"
            className="btn btn-outline btn-xs"
            onClick={() => askSimulation(link.boardId, { kind: "plug", isPlugged: !link.isPlugged })}
          >
            {link.isPlugged ? "Pull the plug" : "Plug it in"}
          </button>
        )}
        <button
          type="button"
          className="btn btn-outline btn-xs"
          aria-expanded={isChoosing}
          onClick={() => setIsChoosing(!isChoosing)}
        >
          Choose its wire
        </button>
      </div>
      {isReal && !isOpened && !isChoosing && (
        <p className="text-sm">
          This project had it on {wireWords(board.link)}. Nobody has opened that on this computer; meanwhile it is
          simulated.{" "}
          <button type="button" className="btn btn-outline btn-xs" onClick={() => openWire(board.id, board.link)}>
            Open it here
          </button>
        </p>
      )}
      {tooSlow && isOpened && <p className="text-sm text-error">{tooSlow}</p>}
      {link.sentence && <p className="text-sm text-error">{link.sentence}</p>}
      {isChoosing && <WireChoice board={board} onDone={() => setIsChoosing(false)} />}
      {isOpened && link.state !== "refused" && <Health boardId={board.id} />}
      {isOpened && link.state === "refused" && <Said link={link} />}
      <code className="number mt-1 block min-h-5 text-xs break-all">{line}</code>
    </section>
  );
}

function Health({ boardId }: { readonly boardId: string }) {
  const health = useStore(healthStore, (all) => all[boardId]);
  if (!health) return null;
  const answered = Number.isFinite(health.answerMs)
    ? `answers in ${formatNumber(health.answerMs, 1)} ms, 99 of 100 in ${formatNumber(health.answer99Ms, 1)} ms`
    : "no answer yet";
  return (
    <div data-readout="health">
      <LastMinute taken={health.taken} missing={health.missing} />
      <p className="caption">
        {health.heldBackMs === undefined
          ? `${health.framesPerS} frames a second taken; ${answered}; ${health.lost} lost, ${health.refused} refused, ${health.resets} resets`
          : `${health.framesPerS} questions a second answered; ${answered}; ${health.lost} without an answer; the adapter is given ${formatNumber(health.heldBackMs, 1)} ms for what it holds back`}
      </p>
    </div>
  );
}

/** What the board says of itself beside what the project says, and what can be done where they differ. */
function Said({ link }: { readonly link: Link }) {
  const takeOver = takingOver(link.boardId);
  return (
    <div className="mt-2 space-y-2" data-readout="said">
      <table className="w-full text-sm">
        <thead className="caption text-left">
          <tr>
            <th className="font-normal">what</th>
            <th className="font-normal">the board says</th>
            <th className="font-normal">the project says</th>
          </tr>
        </thead>
        <tbody>
          {link.said.map(({ what, said, described, isApart }) => (
            <tr key={what} className={isApart ? "font-semibold text-error" : ""}>
              <td>{what}</td>
              <td className="number">{said}</td>
              <td className="number">
                {described} {isApart && <span className="caption">differs</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {takeOver ? (
        <button type="button" className="btn btn-primary btn-sm" onClick={() => edit(takeOver)}>
          Take over what the board says
        </button>
      ) : (
        link.greeting && (
          <p className="caption">
            No way of making signals that Vantel knows counts as this board does. Change its program.
          </p>
        )
      )}
    </div>
  );
}
