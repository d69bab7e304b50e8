/**
 * One tab at a time has the bench: two would drive the same servos and save over each other.
 * The lock also keeps the browser from freezing the page while it is hidden.
 */
const lockName = "vantel-bench";
const channelName = "vantel-bench";
/** A reload needs a moment until the old page has let go: only after this is another tab spoken of. */
const patienceMs = 1000;

/** Tells this tab's own asking from that of another. */
const tab = Math.random().toString(36).slice(2);

/** The bench is in the hands of this tab. */
export interface BenchHold {
  release(): void;
}

/**
 * Takes the bench, as soon as no other tab has it: `onWait` is called when that takes longer than a reload would.
 * `onAsked` is called when another tab asks for the bench later: save, and release the hold.
 */
export async function takeBench(onAsked: () => void, onWait: () => void): Promise<BenchHold> {
  if (typeof navigator === "undefined" || !navigator.locks) return { release: () => {} };
  const channel = new BroadcastChannel(channelName);
  const waiting = setTimeout(onWait, patienceMs);
  const onOtherAsks = (answer: () => void) => {
    channel.onmessage = ({ data }) => data !== tab && answer();
  };
  return new Promise((resolve) => {
    const queue = () => {
      const place = new AbortController();
      // Another tab that is waiting too asked first: this one lines up behind it.
      onOtherAsks(() => {
        place.abort();
        queue();
      });
      navigator.locks
        .request(lockName, { signal: place.signal }, () => {
          clearTimeout(waiting);
          onOtherAsks(onAsked);
          return new Promise<void>((release) => {
            resolve({
              release: () => {
                channel.close();
                release();
              },
            });
          });
        })
        .catch(() => {});
    };
    queue();
  });
}

/** Asks the tab that has the bench to save and let go. */
export function askForBench(): void {
  const channel = new BroadcastChannel(channelName);
  channel.postMessage(tab);
  channel.close();
}
