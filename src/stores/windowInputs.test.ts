import { demoProject } from "@core/demo";
import type { Origin } from "@core/origins";
import { renameProject, type Source } from "@core/project";
import { afterEach, beforeEach, expect, test, vi } from "vitest";

/** The window, as far as devices need it: what listens is kept, and frames come when the test says so. */
let listening: Map<string, ((event: unknown) => void)[]>;
let frames: (() => void)[];
let pads: unknown[];
let isSheetOpen: boolean;
let page: {
  visibilityState: string;
  addEventListener: unknown;
  removeEventListener: unknown;
  querySelector: () => unknown;
};
/** A field of a form, as far as a key press minds it. */
class Field {
  readonly type: string;
  constructor(type: string) {
    this.type = type;
  }
}
const sent: { kind: string; sourceId?: string; value?: number; isLost?: boolean }[] = [];
const told: string[] = [];

vi.mock("./live", () => ({
  command: (given: (typeof sent)[number]) => sent.push(given),
  giveSource: (sourceId: string, value: number) => sent.push({ kind: "source", sourceId, value }),
}));
vi.mock("./notices", () => ({ notify: (sentence: string) => told.push(sentence) }));

beforeEach(() => {
  vi.resetModules();
  listening = new Map();
  frames = [];
  pads = [];
  sent.length = 0;
  told.length = 0;
  vi.stubGlobal("window", {
    addEventListener: (kind: string, listener: (event: unknown) => void) =>
      listening.set(kind, [...(listening.get(kind) ?? []), listener]),
    removeEventListener: (kind: string, listener: (event: unknown) => void) =>
      listening.set(
        kind,
        (listening.get(kind) ?? []).filter((one) => one !== listener),
      ),
  });
  const documentListening = (kind: string, listener: (event: unknown) => void) =>
    listening.set(kind, [...(listening.get(kind) ?? []), listener]);
  page = {
    visibilityState: "visible",
    addEventListener: documentListening,
    removeEventListener: () => {},
    querySelector: () => (isSheetOpen ? {} : null),
  };
  isSheetOpen = false;
  vi.stubGlobal("document", page);
  vi.stubGlobal("HTMLElement", class {});
  vi.stubGlobal("HTMLInputElement", Field);
  vi.stubGlobal("navigator", { getGamepads: () => pads });
  vi.stubGlobal("requestAnimationFrame", (frame: () => void) => frames.push(frame));
  vi.stubGlobal("cancelAnimationFrame", () => frames.splice(0));
});
afterEach(() => vi.unstubAllGlobals());

interface MidiPort {
  id: string;
  type: string;
  state: string;
  onmidimessage: ((event: { data: Uint8Array }) => void) | null;
}

const source = (id: string, origin: Origin, high = 100): Source => ({
  id,
  label: id,
  range: { low: 0, high },
  origin,
  isMuted: false,
  ifLost: { kind: "hold" },
});
const happen = (kind: string, event: object) => {
  for (const listener of listening.get(kind) ?? [])
    listener({ preventDefault() {}, stopImmediatePropagation() {}, ...event });
};
const nextFrame = () => frames.splice(0).forEach((frame) => void frame());

/** The devices of a bench with these sources, listening. */
async function listen(...sources: Source[]) {
  const { layOut } = await import("./document");
  layOut({ ...demoProject(), sources, leads: [] });
  const devices = await import("./windowInputs");
  return { ...devices, stop: devices.listenToWindow() };
}

test("a key goes to the sources that are bound to it, down and up; not while somebody types", async () => {
  await listen(source("wink", { kind: "key", code: "KeyX" }, 1), source("other", { kind: "key", code: "KeyY" }, 1));
  happen("keydown", { code: "KeyX" });
  happen("keydown", { code: "KeyX", repeat: true });
  happen("keyup", { code: "KeyX" });
  expect(sent).toEqual([
    { kind: "source", sourceId: "wink", value: 1 },
    { kind: "source", sourceId: "wink", value: 0 },
  ]);
});

test("a key pressed in a field of words is not the bench's; on a slider or a tick box it is", async () => {
  await listen(source("wink", { kind: "key", code: "KeyX" }, 1));
  happen("keydown", { code: "KeyX", target: new Field("text") });
  happen("keydown", { code: "KeyX", target: new Field("number") });
  expect(sent).toEqual([]);
  happen("keydown", { code: "KeyX", target: new Field("range") });
  expect(sent).toHaveLength(1);
});

test("a key that was pressed in a field, or under an open sheet, moves nothing when it is let go either", async () => {
  await listen(source("wink", { kind: "key", code: "KeyX" }, 1));
  happen("keydown", { code: "KeyX", target: new Field("text") });
  happen("keyup", { code: "KeyX" });
  isSheetOpen = true;
  happen("keydown", { code: "KeyX" });
  happen("keyup", { code: "KeyX" });
  happen("keydown", { code: "KeyX", ctrlKey: true });
  expect(sent).toEqual([]);
});

test("one press is for one: the station before the sources, the sources before the bench, and Esc for all", async () => {
  await listen(source("wink", { kind: "key", code: "KeyX" }, 1));
  const { onKeys } = await import("./keyboard");
  const heard: string[] = [];
  onKeys("bench", ({ code }) => heard.push(`bench ${code}`) > 0);
  onKeys("always", ({ code }) => heard.push(`always ${code}`) < 0);
  const stop = onKeys("station", ({ code }) => code === "KeyX" && heard.push("station") > 0);
  happen("keydown", { code: "KeyX" });
  stop();
  happen("keydown", { code: "KeyX" });
  happen("keydown", { code: "KeyQ" });
  expect(heard).toEqual(["always KeyX", "station", "always KeyX", "always KeyQ", "bench KeyQ"]);
  expect(sent).toHaveLength(1);
});

test("a window that is left lets go of the keys that were held", async () => {
  await listen(source("wink", { kind: "key", code: "KeyX" }, 1), source("nod", { kind: "key", code: "KeyY" }, 1));
  happen("keydown", { code: "KeyX" });
  happen("blur", {});
  happen("blur", {});
  expect(sent).toEqual([
    { kind: "source", sourceId: "wink", value: 1 },
    { kind: "source", sourceId: "wink", value: 0 },
  ]);
});

test("a pad in a hidden tab counts as gone; seen again, where it stands is where it rests", async () => {
  const pad = { index: 0, axes: [0], buttons: [] };
  pads = [pad];
  await listen(source("nod", { kind: "gamepad", pad: 0, part: "axis", index: 0 }));
  nextFrame();
  page.visibilityState = "hidden";
  happen("visibilitychange", {});
  pad.axes[0] = 1;
  page.visibilityState = "visible";
  happen("visibilitychange", {});
  nextFrame();
  expect(sent).toEqual([
    { kind: "lost", sourceId: "nod", isLost: true },
    { kind: "lost", sourceId: "nod", isLost: false },
  ]);
});

test("the next thing that is pressed is learnt, and does nothing else", async () => {
  const { learnOrigin } = await listen(source("wink", { kind: "key", code: "KeyX" }, 1));
  const learnt: Origin[] = [];
  learnOrigin((origin) => learnt.push(origin));
  happen("keydown", { code: "Escape" });
  happen("keydown", { code: "KeyX" });
  expect(learnt).toEqual([{ kind: "key", code: "KeyX" }]);
  expect(sent).toEqual([]);
  happen("keydown", { code: "KeyX" });
  expect(sent).toHaveLength(1);
});

test("an axis of −1…1 is laid onto the source's range; where it rests when it is first seen moves nothing", async () => {
  const pad = { index: 0, axes: [0.5], buttons: [{ value: 0 }] };
  pads = [pad];
  await listen(
    source("nod", { kind: "gamepad", pad: 0, part: "axis", index: 0 }),
    source("call", { kind: "gamepad", pad: 0, part: "button", index: 0 }),
  );
  nextFrame();
  expect(sent).toEqual([]);
  pad.axes[0] = -1;
  nextFrame();
  pad.axes[0] = -0.999;
  nextFrame();
  pad.buttons[0] = { value: 1 };
  nextFrame();
  expect(sent).toEqual([
    { kind: "source", sourceId: "nod", value: 0 },
    { kind: "source", sourceId: "call", value: 100 },
  ]);
});

test("a gamepad that is unplugged is lost, said so, and found again", async () => {
  const pad = { index: 0, axes: [0], buttons: [] };
  pads = [pad];
  await listen(source("nod", { kind: "gamepad", pad: 0, part: "axis", index: 0 }));
  happen("gamepaddisconnected", { gamepad: pad });
  expect(sent).toEqual([{ kind: "lost", sourceId: "nod", isLost: true }]);
  expect(told[0]).toContain("The gamepad is gone: nod");
  happen("gamepadconnected", { gamepad: pad });
  expect(sent.at(-1)).toEqual({ kind: "lost", sourceId: "nod", isLost: false });
});

test("MIDI: a controller by its channel and number, a note on and off", async () => {
  const port: MidiPort = { id: "one", type: "input", state: "connected", onmidimessage: null };
  const access: { inputs: Map<string, typeof port>; onstatechange: ((event: object) => void) | null } = {
    inputs: new Map([["one", port]]),
    onstatechange: null,
  };
  vi.stubGlobal("navigator", { getGamepads: () => [], requestMIDIAccess: async () => access });
  await listen(
    source("beak", { kind: "midi", message: "controller", channel: 2, number: 7 }, 127),
    source("call", { kind: "midi", message: "note", channel: 1, number: 60 }, 1),
  );
  await vi.waitFor(() => expect(port.onmidimessage).not.toBeNull());
  const say = (...bytes: number[]) => port.onmidimessage?.({ data: Uint8Array.from(bytes) });
  say(0xb1, 7, 64);
  say(0xb0, 7, 64);
  say(0x90, 60, 100);
  say(0x90, 60, 0);
  expect(sent).toEqual([
    { kind: "source", sourceId: "beak", value: 64 },
    { kind: "source", sourceId: "call", value: 1 },
    { kind: "source", sourceId: "call", value: 0 },
  ]);
  // One that only listens has gone, and comes again: nobody was moved by it.
  access.onstatechange?.({ port: { id: "two", type: "output", state: "disconnected" } });
  access.onstatechange?.({ port: { id: "two", type: "output", state: "connected" } });
  expect(sent.filter((one) => one.kind === "lost")).toHaveLength(0);
  access.inputs.set("other", { ...port, id: "other" });
  access.onstatechange?.({ port: access.inputs.get("other") });
  port.state = "disconnected";
  access.onstatechange?.({ port });
  const lost = sent.filter((one) => one.kind === "lost");
  expect(lost.map(({ sourceId, isLost }) => [sourceId, isLost])).toEqual([
    ["beak", true],
    ["call", true],
  ]);
  expect(told).toHaveLength(1);
  expect(told[0]).toContain("beak, call");
});

test("MIDI is asked for once, however often the bench is edited; left, its ports are heard no more", async () => {
  let asked = 0;
  const port: MidiPort = { id: "one", type: "input", state: "connected", onmidimessage: null };
  const access = { inputs: new Map([["one", port]]), onstatechange: null };
  const requestMIDIAccess = async () => {
    asked += 1;
    return access;
  };
  vi.stubGlobal("navigator", { getGamepads: () => [], requestMIDIAccess });
  const { stop } = await listen(source("beak", { kind: "midi", message: "controller", channel: 1, number: 7 }));
  const { edit } = await import("./document");
  for (const name of ["One", "Two"]) edit(renameProject(name));
  await vi.waitFor(() => expect(port.onmidimessage).not.toBeNull());
  stop();
  expect([asked, port.onmidimessage]).toEqual([1, null]);
});

test("one pad that comes back is not another that is still gone", async () => {
  const gone = { index: 0, axes: [0], buttons: [] };
  const other = { index: 1, axes: [0], buttons: [] };
  pads = [gone, other];
  await listen(source("nod", { kind: "gamepad", pad: 0, part: "axis", index: 0 }));
  happen("gamepaddisconnected", { gamepad: gone });
  pads = [other];
  happen("gamepadconnected", { gamepad: other });
  page.visibilityState = "hidden";
  happen("visibilitychange", {});
  page.visibilityState = "visible";
  happen("visibilitychange", {});
  expect(sent).toEqual([{ kind: "lost", sourceId: "nod", isLost: true }]);
});

test("when the bench goes to another tab nothing is heard any more", async () => {
  const pad = { index: 0, axes: [0], buttons: [] };
  pads = [pad];
  const nod = source("nod", { kind: "gamepad", pad: 0, part: "axis", index: 0 });
  const { stop } = await listen(source("wink", { kind: "key", code: "KeyX" }, 1), nod);
  nextFrame();
  stop();
  pad.axes[0] = 1;
  nextFrame();
  expect(frames).toEqual([]);
  happen("keydown", { code: "KeyX" });
  expect(sent).toEqual([]);
});
