/**
 * One tab at a time has the bench: two would drive the same servos and save over each other.
 * The lock also keeps the browser from freezing the page while it is hidden.
 */
const lockName = "vantel-bench";
const channelName = "vantel-bench";
const patienceMs = 1000;

/** The bench is in the hands of this tab. */
export interface BenchHold {
  release(): void;
}

/**
 * Takes the bench. Gives null when another tab has it and does not let go within a second (a reload needs a moment).
 * `onAsked` is called when another tab asks for it: save, and release the hold.
 */
export async function takeBench(onAsked: () => void): Promise<BenchHold | null> {
  if (typeof navigator === "undefined" || !navigator.locks) return { release: () => {} };
  return new Promise((resolve) => {
    const patience = AbortSignal.timeout(patienceMs);
    navigator.locks
      .request(lockName, { signal: patience }, () => {
        const channel = new BroadcastChannel(channelName);
        return new Promise<void>((release) => {
          channel.onmessage = onAsked;
          resolve({
            release: () => {
              channel.close();
              release();
            },
          });
        });
      })
      .catch(() => resolve(null));
  });
}

/** Asks the tab that has the bench to save and let go. */
export function askForBench(): void {
  const channel = new BroadcastChannel(channelName);
  channel.postMessage("hand over");
  channel.close();
}
