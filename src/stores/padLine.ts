import type { PadBook } from "@core/pads";
import {
  type BenchState,
  type Hand,
  handsAtMost,
  type PadAsk,
  padToldSchema,
  type Rights,
  usualRights,
} from "@core/remote";
import { createStore } from "zustand/vanilla";

/** A pad's own end of its connection: what it shows of the bench, and what its thumbs do. It has no bench of its own. */
interface Pad {
  /** `locked`: it has to be let in first. `lost`: it is tried again by itself. */
  readonly phase: "opening" | "locked" | "open" | "lost" | "out";
  readonly name: string;
  /** Which device this is; empty before it was let in. */
  readonly deviceId: string;
  readonly rights: Rights;
  readonly book: PadBook | null;
  readonly isBenchThere: boolean;
  /** From the thumb to the pulse; NaN before it was measured. */
  readonly lagMs: number;
  /** Something that was refused, or why the door is shut. */
  readonly sentence: string;
  /** Whether the bench has said that it let everything go. */
  readonly release: "none" | "asked" | "done" | "unanswered";
}

const begin: Pad = {
  phase: "opening",
  name: "",
  deviceId: "",
  rights: usualRights,
  book: null,
  isBenchThere: false,
  lagMs: Number.NaN,
  sentence: "",
  release: "none",
};
export const padStore = createStore<Pad>()(() => begin);

/** A thumb as this page knows it. */
interface Thumb {
  x: number | null;
  y: number | null;
  isDown: boolean;
  downs: number;
  downAtMs: number;
  touchedMs: number;
}

const sayEveryMs = 50;
/** Sooner than that is no use: a board has fifty frames in a second. */
const leastBetweenMs = 20;
/** A thumb that has left is told of for so long: by then one of the messages has arrived. */
const toldForMs = 2000;
const idleEveryMs = 250;
const againAfterMs = 700;
const releaseAgainMs = 100;
const releaseGivenUpMs = 1500;
const sentenceForMs = 5000;
const numbersComeWithinMs = 500;

const thumbs = new Map<string, Thumb>();
const listeners = new Set<() => void>();
let socket: WebSocket | null = null;
let seq = 0;
let saidMs = Number.NEGATIVE_INFINITY;
let isDirty = false;
let revision = -1;
/** A book whose numbers are still to come: until then the one before it is shown. */
let nextBook: { readonly revision: number; readonly book: PadBook } | null = null;
let turning: ReturnType<typeof setTimeout> | undefined;
let state: BenchState | null = null;
let releases = 0;
let releasing: ReturnType<typeof setInterval> | undefined;
let quieting: ReturnType<typeof setTimeout> | undefined;
let isPainting = false;

/** Opens the connection, and keeps it. */
export function openPad(): () => void {
  void connect();
  const timer = setInterval(say, sayEveryMs);
  const hide = () => document.visibilityState === "hidden" && liftAll();
  document.addEventListener("visibilitychange", hide);
  addEventListener("blur", liftAll);
  addEventListener("pagehide", liftAll);
  return () => {
    clearInterval(timer);
    document.removeEventListener("visibilitychange", hide);
    removeEventListener("blur", liftAll);
    removeEventListener("pagehide", liftAll);
    socket?.close();
  };
}

async function connect(): Promise<void> {
  const isLetIn = await letIn();
  if (isLetIn === null) {
    padStore.setState({ phase: "lost" });
    setTimeout(() => void connect(), againAfterMs);
    return;
  }
  if (!isLetIn) {
    padStore.setState({ phase: "locked" });
    return;
  }
  const opened = new WebSocket(`${location.origin.replace(/^http/, "ws")}/api/pad`);
  socket = opened;
  opened.onopen = () => {
    // A new connection knows of nothing that was done on the one before.
    thumbs.clear();
    seq = 0;
    padStore.setState({ phase: "open", sentence: "" });
  };
  opened.onmessage = ({ data }: MessageEvent<string>) => hear(data);
  opened.onclose = () => {
    if (socket !== opened) return;
    socket = null;
    thumbs.clear();
    if (padStore.getState().phase === "out") return;
    padStore.setState({ phase: "lost", isBenchThere: false });
    setTimeout(() => void connect(), againAfterMs);
  };
}

/** Whether the server knows this device; null where it does not answer. */
async function letIn(): Promise<boolean | null> {
  try {
    const answer = await fetch("/api/pad/me", { cache: "no-store" });
    return answer.ok ? ((await answer.json()) as { isLetIn: boolean }).isLetIn : null;
  } catch {
    return null;
  }
}

/** Asks to be let in, with the code that the bench shows. Gives a sentence where it was not. */
export async function pairPad(code: string, name: string): Promise<string | null> {
  try {
    const answer = await fetch("/api/pad/pair", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ code, name }),
    });
    if (!answer.ok) return ((await answer.json()) as { sentence: string }).sentence;
    padStore.setState({ phase: "opening", sentence: "" });
    void connect();
    return null;
  } catch {
    return "The bench does not answer. Is this phone on its network?";
  }
}

/** Knocks again after it was thrown out. */
export function knockAgain(): void {
  padStore.setState({ ...begin });
  void connect();
}

function hear(text: string): void {
  const read = padToldSchema.safeParse(JSON.parse(text));
  if (!read.success) return;
  const told = read.data;
  switch (told.kind) {
    case "welcome":
      padStore.setState({ name: told.name, deviceId: told.deviceId });
      return;
    case "rights":
      padStore.setState({ rights: told.rights });
      return;
    case "book":
      takeBook(told);
      return;
    case "state":
      state = told.state;
      if (state.revision === nextBook?.revision) turnPage();
      show();
      return;
    case "bench":
      // Another bench counts its books anew: what was said by the one before is not read with them.
      if (told.isThere) state = null;
      padStore.setState({ isBenchThere: told.isThere });
      return;
    case "time":
      send({ kind: "time", askedMs: told.askedMs, atMs: performance.now() });
      return;
    case "released":
      if (told.times < releases) return;
      clearInterval(releasing);
      padStore.setState({ release: "done" });
      return;
    case "told":
      tellPerson(told.sentence);
      return;
    case "lag":
      padStore.setState({ lagMs: told.ms });
      return;
    case "out":
      padStore.setState({ phase: "out", sentence: told.sentence });
      return;
    default:
      told satisfies never;
  }
}

/** Numbers are of one book. While there are some, they are shown until those of the next are there, or do not come. */
function takeBook(told: NonNullable<typeof nextBook>): void {
  nextBook = told;
  clearTimeout(turning);
  if (padState() && told.revision !== revision) turning = setTimeout(turnPage, numbersComeWithinMs);
  else turnPage();
}

function turnPage(): void {
  clearTimeout(turning);
  if (!nextBook) return;
  const { book } = nextBook;
  revision = nextBook.revision;
  nextBook = null;
  padStore.setState({ book });
}

function tellPerson(sentence: string): void {
  padStore.setState({ sentence });
  clearTimeout(quieting);
  quieting = setTimeout(() => padStore.setState({ sentence: "" }), sentenceForMs);
}

function show(): void {
  if (isPainting) return;
  isPainting = true;
  requestAnimationFrame(() => {
    isPainting = false;
    for (const listener of listeners) listener();
  });
}

/** Calls back when there is something new to show. Gives the way to stop. */
export function onPadState(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** How the bench stands; null before it said so, or where it is of another book. */
export const padState = (): BenchState | null => (state?.revision === revision ? state : null);

/** A thumb was put on a control, or goes on on it: where it is, in shares of what it moves. */
export function putThumb(id: string, x: number | null, y: number | null): void {
  const nowMs = performance.now();
  const thumb = thumbs.get(id) ?? { x, y, isDown: false, downs: 0, downAtMs: nowMs, touchedMs: nowMs };
  thumbs.set(id, thumb);
  if (!thumb.isDown) {
    thumb.downs += 1;
    thumb.downAtMs = nowMs;
    if ("vibrate" in navigator) navigator.vibrate?.(8);
  }
  const isNew = !thumb.isDown || thumb.x !== x || thumb.y !== y;
  Object.assign(thumb, { x, y, isDown: true, touchedMs: nowMs });
  if (isNew) sayNow();
}

/** A thumb leaves a control; what springs is back in its middle. */
export function liftThumb(id: string, springs = false): void {
  const thumb = thumbs.get(id);
  if (!thumb?.isDown) return;
  Object.assign(thumb, { isDown: false, touchedMs: performance.now(), ...(springs && { x: 0.5, y: 0.5 }) });
  sayNow();
}

function liftAll(): void {
  for (const id of thumbs.keys()) liftThumb(id);
}

/** Where this page's own thumb has put a control; null where none is on it. */
export function thumbOn(id: string): { readonly x: number | null; readonly y: number | null } | null {
  const thumb = thumbs.get(id);
  return thumb?.isDown ? thumb : null;
}

/** Releases everything: said again until the bench says that it is done. */
export function releaseFromPad(): void {
  liftAll();
  releases += 1;
  const times = releases;
  const askedMs = performance.now();
  clearInterval(releasing);
  padStore.setState({ release: "asked" });
  send({ kind: "release", times });
  releasing = setInterval(() => {
    if (performance.now() - askedMs > releaseGivenUpMs) padStore.setState({ release: "unanswered" });
    send({ kind: "release", times });
  }, releaseAgainMs);
}

function sayNow(): void {
  isDirty = true;
  if (performance.now() - saidMs >= leastBetweenMs) say();
}

/** Says how all thumbs stand: at once where something changed, often while one is down, now and then else. */
function say(): void {
  const nowMs = performance.now();
  for (const [id, { isDown, touchedMs }] of thumbs) if (!isDown && nowMs - touchedMs > toldForMs) forget(id);
  const sinceMs = nowMs - saidMs;
  const hasNews =
    isDirty || [...thumbs.values()].some(({ isDown, touchedMs }) => isDown || nowMs - touchedMs < idleEveryMs);
  if (sinceMs < (hasNews ? leastBetweenMs : idleEveryMs)) return;
  saidMs = nowMs;
  isDirty = false;
  seq += 1;
  const hands = [...thumbs]
    .filter(([, { touchedMs, isDown }]) => isDown || nowMs - touchedMs <= toldForMs)
    .slice(-handsAtMost)
    .map(([id, { x, y, isDown, downs, downAtMs }]): Hand => ({ id, x, y, isDown, downs, downAtMs }));
  send({ kind: "hands", seq, atMs: nowMs, hands });
}

/** Its presses stay counted: another one is one more. */
function forget(id: string): void {
  const thumb = thumbs.get(id);
  if (thumb) thumb.touchedMs = Number.NEGATIVE_INFINITY;
}

function send(ask: PadAsk): void {
  if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(ask));
}
