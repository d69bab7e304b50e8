import type { FromWorker, ToWorker } from "@worker/messages";
import { notify } from "./notices";

/** The one way to the bench worker and back. What it says is heard by kind; each kind has one ear. */
type Told<Kind extends FromWorker["kind"]> = Extract<FromWorker, { kind: Kind }>;

const bridge: {
  worker: Worker | null;
  readonly ears: { [Kind in FromWorker["kind"]]?: (told: Told<Kind>) => void };
} = { worker: null, ears: {} };

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
  worker.onmessage = ({ data }: MessageEvent<FromWorker>) =>
    (bridge.ears[data.kind] as ((told: FromWorker) => void) | undefined)?.(data);
  worker.onerror = (event) =>
    notify(`The bench worker failed: ${event.message}. Reload the page; your work is saved.`, "warning");
  bridge.worker = worker;
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
  worker.terminate();
  bridge.worker = null;
}
