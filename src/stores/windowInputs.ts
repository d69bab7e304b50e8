import type { Origin } from "@core/origins";
import type { Source } from "@core/project";
import { dequal } from "dequal";
import { documentStore } from "./document";
import { onKeyLetGo, onKeys } from "./keyboard";
import { command, giveSource } from "./live";
import { MidiInputs } from "./midiInputs";
import { notify } from "./notices";

/**
 * What only a window can listen to: keys, gamepads and MIDI controllers. Whatever station is shown, what they do goes to the sources that
 * are bound to them. A source's number is what the origin gives, laid onto the source's own range.
 */
interface Heard {
  readonly origin: Origin;
  readonly share: number;
  /** The MIDI port it came on. */
  readonly portId?: string;
}

let learner: ((origin: Origin) => void) | null = null;
const padState = new Map<string, number>();
/** The next look at the pads; null while there are none. */
let nextLook: number | null = null;
let midi: MidiInputs | null = null;

const sourcesNow = (): readonly Source[] => documentStore.getState().project?.sources ?? [];

export function listenToWindow(): () => void {
  const pressed = new Set<string>();
  const stopLearning = onKeys("learning", ({ code }) => {
    if (!learner || code === "Escape") return false;
    hear({ origin: { kind: "key", code }, share: 1 });
    return true;
  });
  const stopKeys = onKeys("sources", ({ code, repeat, ctrlKey, metaKey, altKey }) => {
    const origin: Origin = { kind: "key", code };
    if (ctrlKey || metaKey || altKey || !sourcesNow().some((source) => dequal(source.origin, origin))) return false;
    if (!repeat) {
      pressed.add(code);
      hear({ origin, share: 1 });
    }
    return true;
  });
  // What was pressed for somebody else, a field say, is nothing that is let go here.
  const stopLetGo = onKeyLetGo((code) => {
    if (pressed.delete(code)) hear({ origin: { kind: "key", code }, share: 0 });
  });
  // Pads are asked once a displayed frame, and a hidden tab has none: they count as gone until somebody looks again.
  const onVisibility = () => {
    const isLost = document.visibilityState === "hidden";
    for (const { index } of padsNow())
      for (const source of sourcesOfPad(index)) command({ kind: "lost", sourceId: source.id, isLost });
    // Where they stand then is where they rest: nobody has moved them.
    if (!isLost) padState.clear();
  };
  const onPad = ({ gamepad }: GamepadEvent) => {
    for (const source of sourcesOfPad(gamepad.index)) command({ kind: "lost", sourceId: source.id, isLost: false });
    if (nextLook === null) poll();
  };
  const onPadGone = ({ gamepad }: GamepadEvent) => {
    const gone = sourcesOfPad(gamepad.index);
    for (const source of gone) command({ kind: "lost", sourceId: source.id, isLost: true });
    for (const key of padState.keys()) if (key.startsWith(`${gamepad.index}:`)) padState.delete(key);
    if (gone.length > 0)
      notify(
        `The gamepad is gone: ${gone.map((source) => source.label).join(", ")}. Their joints do as was set.`,
        "warning",
      );
  };
  document.addEventListener("visibilitychange", onVisibility);
  window.addEventListener("gamepadconnected", onPad);
  window.addEventListener("gamepaddisconnected", onPadGone);
  if (padsNow().length > 0) poll();
  const wires = new MidiInputs((origin, share, portId) => hear({ origin, share, portId }));
  midi = wires;
  const unfollow = documentStore.subscribe(() => void wires.open());
  void wires.open();
  return () => {
    for (const stop of [stopLearning, stopKeys, stopLetGo]) stop();
    document.removeEventListener("visibilitychange", onVisibility);
    window.removeEventListener("gamepadconnected", onPad);
    window.removeEventListener("gamepaddisconnected", onPadGone);
    unfollow();
    wires.close();
    midi = null;
    if (nextLook !== null) cancelAnimationFrame(nextLook);
    nextLook = null;
  };
}

/** Calls back with the next thing that is pressed or moved. Gives the way to stop listening. */
export function learnOrigin(onOrigin: (origin: Origin) => void): () => void {
  learner = onOrigin;
  void midi?.open(true);
  return () => {
    if (learner === onOrigin) learner = null;
  };
}

/** Something was pressed or moved: it is learnt, or goes to the sources that are bound to it. */
function hear({ origin, share, portId }: Heard): void {
  if (learner && share > 0.5) {
    const learnt = learner;
    learner = null;
    learnt(origin);
    return;
  }
  for (const { id, origin: wanted, range } of sourcesNow()) {
    if (!dequal(wanted, origin)) continue;
    if (portId !== undefined) midi?.moved(id, portId);
    giveSource(id, range.low + share * (range.high - range.low));
  }
}

const sourcesOfPad = (index: number) =>
  sourcesNow().filter(({ origin }) => origin.kind === "gamepad" && origin.pad === index);
const padsNow = () => (navigator.getGamepads?.() ?? []).filter((pad) => pad !== null);

/** Smaller movements of an axis are its noise. */
const leastTurn = 0.004;

function poll(): void {
  const pads = padsNow();
  nextLook = pads.length > 0 ? requestAnimationFrame(poll) : null;
  for (const pad of pads) {
    for (const [index, axis] of pad.axes.entries()) hearPad(pad.index, "axis", index, (axis + 1) / 2);
    for (const [index, button] of pad.buttons.entries()) hearPad(pad.index, "button", index, button.value);
  }
}

function hearPad(pad: number, part: "axis" | "button", index: number, share: number): void {
  const key = `${pad}:${part}:${index}`;
  const before = padState.get(key);
  if (before !== undefined && Math.abs(share - before) < leastTurn) return;
  padState.set(key, share);
  // What a pad says when it is first seen is where it rests: nobody has moved it.
  if (before === undefined) return;
  const isMoved = part === "button" ? share > 0.5 : Math.abs(share - 0.5) > 0.3;
  if (learner && !isMoved) return;
  hear({ origin: { kind: "gamepad", pad, part, index }, share: learner ? 1 : share });
}
