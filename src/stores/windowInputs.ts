import type { Origin } from "@core/origins";
import type { Source } from "@core/project";
import { dequal } from "dequal";
import { documentStore } from "./document";
import { onKeyLetGo, onKeys } from "./keyboard";
import { command, giveSource } from "./live";
import { notify } from "./notices";

/**
 * What only a window can listen to: keys, gamepads and MIDI controllers. Whatever station is shown, what they do goes to the sources that
 * are bound to them. A source's number is what the origin gives, laid onto the source's own range.
 */
type Heard = { readonly origin: Origin; readonly share: number };

let learner: ((origin: Origin) => void) | null = null;
const padState = new Map<string, number>();
let isPolling = false;
let midi: MIDIAccess | null = null;

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
    if (padsNow().length === 0) return;
    const isLost = document.visibilityState === "hidden";
    for (const source of padSources()) command({ kind: "lost", sourceId: source.id, isLost });
    // Where they stand then is where they rest: nobody has moved them.
    if (!isLost) padState.clear();
  };
  const onPad = () => {
    for (const source of padSources()) command({ kind: "lost", sourceId: source.id, isLost: false });
    if (!isPolling) poll();
  };
  const onPadGone = ({ gamepad }: GamepadEvent) => {
    const gone = padSources().filter(({ origin }) => origin.kind === "gamepad" && origin.pad === gamepad.index);
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
  const unfollow = documentStore.subscribe(() => void openMidi());
  void openMidi();
  return () => {
    for (const stop of [stopLearning, stopKeys, stopLetGo]) stop();
    document.removeEventListener("visibilitychange", onVisibility);
    window.removeEventListener("gamepadconnected", onPad);
    window.removeEventListener("gamepaddisconnected", onPadGone);
    unfollow();
    isPolling = false;
  };
}

/** Calls back with the next thing that is pressed or moved. Gives the way to stop listening. */
export function learnOrigin(onOrigin: (origin: Origin) => void): () => void {
  learner = onOrigin;
  void openMidi(true);
  return () => {
    if (learner === onOrigin) learner = null;
  };
}

/** Something was pressed or moved: it is learnt, or goes to the sources that are bound to it. */
function hear({ origin, share }: Heard): void {
  if (learner && share > 0.5) {
    const learnt = learner;
    learner = null;
    learnt(origin);
    return;
  }
  for (const source of sourcesNow())
    if (dequal(source.origin, origin))
      giveSource(source.id, source.range.low + share * (source.range.high - source.range.low));
}

const padSources = () => sourcesNow().filter(({ origin }) => origin.kind === "gamepad");
const padsNow = () => (navigator.getGamepads?.() ?? []).filter((pad) => pad !== null);

/** Smaller movements of an axis are its noise. */
const leastTurn = 0.004;

function poll(): void {
  const pads = padsNow();
  isPolling = pads.length > 0;
  if (!isPolling) return;
  for (const pad of pads) {
    for (const [index, axis] of pad.axes.entries()) hearPad(pad.index, "axis", index, (axis + 1) / 2);
    for (const [index, button] of pad.buttons.entries()) hearPad(pad.index, "button", index, button.value);
  }
  requestAnimationFrame(poll);
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

/** Asks for MIDI once a source wants it, or somebody teaches one. A browser without it says nothing here. */
async function openMidi(isAsked = false): Promise<void> {
  const isWanted = isAsked || sourcesNow().some(({ origin }) => origin.kind === "midi");
  if (midi || !isWanted || !navigator.requestMIDIAccess) return;
  try {
    midi = await navigator.requestMIDIAccess();
    const listen = () => {
      for (const input of midi?.inputs.values() ?? []) input.onmidimessage = onMidi;
    };
    midi.onstatechange = (event) => {
      listen();
      const isLost = event.port?.state === "disconnected";
      for (const source of sourcesNow())
        if (source.origin.kind === "midi") command({ kind: "lost", sourceId: source.id, isLost });
      if (isLost) notify("A MIDI controller is gone. Its joints do as was set.", "warning");
    };
    listen();
  } catch {
    if (isAsked) notify("This browser gives no access to MIDI controllers.", "warning");
  }
}

const noteOff = 0x80;
const noteOn = 0x90;
const controller = 0xb0;

function onMidi({ data }: MIDIMessageEvent): void {
  const [status = 0, number = 0, value = 0] = data ?? [];
  const kind = status & 0xf0;
  const channel = (status & 0x0f) + 1;
  if (kind === controller)
    hear({ origin: { kind: "midi", message: "controller", channel, number }, share: learner ? 1 : value / 127 });
  else if (kind === noteOn || kind === noteOff)
    hear({ origin: { kind: "midi", message: "note", channel, number }, share: kind === noteOn && value > 0 ? 1 : 0 });
}
