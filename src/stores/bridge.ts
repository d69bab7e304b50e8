import type { FromWorker, ToWorker } from "@worker/messages";
import { notify } from "./notices";

/** The one way to the bench worker and back. What it says is heard by kind; each kind has one ear. */
type Told<Kind extends FromWorker["kind"]> = Extract<FromWorker, { kind: Kind }>;

const bridge: {
  worker: Worker | null;
  /** Counts how often it showed the bench. */
  shown: number;
  readonly ears: { [Kind in FromWorker["kind"]]?: (told: Told<Kind>) => void };
} = { worker: null, shown: 0, ears: {} };

/** Says who hears what the worker says of a kind; the ear before it hears no more. */
export function hear<Kind extends FromWorker["kind"]>(kind: Kind, ear: (told: Told<Kind>) => void): void {
  (bridge.ears as Record<string, unknown>)[kind] = ear;
}

/** Tells the worker something; with no worker, nobody. What is transferred is the worker's from then on. */
export function tell(message: ToWorker, transfer: Transferable[] = []): void {
  bridge.worker?.postMessage(message, transfer);
}

export function startWorker(): void {
  if (bridge.worker) return;
  const worker = new Worker(new URL("../worker/benchWorker.ts", import.meta.url), { type: "module" });
  worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
    if (data.kind === "snapshot") bridge.shown += 1;
    (bridge.ears[data.kind] as ((told: FromWorker) => void) | undefined)?.(data);
  };
  // Without a word of its own, it could not even be fetched.
  worker.onerror = (event) => {
    // Told here: it is no fault of the page besides.
    event.preventDefault();
    notify(
      event.message
        ? `The bench met a fault of its own and goes on: ${event.message}`
        : "The bench could not be started: what drives the servos could not be fetched. Load the page again.",
      "warning",
    );
  };
  bridge.worker = worker;
}

/** Counts how often the worker showed the bench: while it stays the same, the bench does not go on, whatever else is said. */
export const timesShown = (): number => bridge.shown;

/** Ends the worker at once, without a word: its wires close with it. */
export function endWorker(): void {
  bridge.worker?.terminate();
  bridge.worker = null;
}

/** A worker that does not answer is not waited for longer than this. */
const partWithinMs = 1000;

/** Ends the worker, once it has released everything and has handed over what it still had. */
export async function stopWorker(): Promise<void> {
  const { worker } = bridge;
  if (!worker) return;
  await new Promise<void>((resolve) => {
    hear("parted", () => resolve());
    tell({ kind: "part" });
    setTimeout(resolve, partWithinMs);
  });
  endWorker();
}
