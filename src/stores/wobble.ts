import type { WobbleNews, WobbleOrder } from "@worker/wobbleWorker";

/** Runs a wobble simulation in a worker of its own. Gives the way to cancel it. */
export function startWobble(order: WobbleOrder, onNews: (news: WobbleNews) => void): () => void {
  const worker = new Worker(new URL("../worker/wobbleWorker.ts", import.meta.url), { type: "module" });
  worker.onmessage = ({ data }: MessageEvent<WobbleNews>) => {
    onNews(data);
    if (data.kind === "report") worker.terminate();
  };
  worker.postMessage(order);
  return () => worker.terminate();
}
