import { reportOf, simulateWobble, type WobbleAsk, type WobbleReport } from "@core/wobble";

export interface WobbleOrder {
  readonly ask: WobbleAsk;
  /** In µs: what the report is held against. */
  readonly deadbandUs: number;
}

export type WobbleNews =
  | { readonly kind: "progress"; readonly done: number }
  | { readonly kind: "report"; readonly report: WobbleReport; readonly tookMs: number };

/** Simulates wobble apart from the page and from the bench. To cancel it, the page ends the worker. */
self.onmessage = ({ data }: MessageEvent<WobbleOrder>) => {
  const startedMs = performance.now();
  let toldMs = startedMs;
  const steps = simulateWobble(data.ask);
  for (;;) {
    const step = steps.next();
    if (step.done) {
      const report = reportOf(step.value, data.deadbandUs);
      post({ kind: "report", report, tookMs: performance.now() - startedMs });
      return;
    }
    if (performance.now() - toldMs > 50) {
      toldMs = performance.now();
      post({ kind: "progress", done: step.value });
    }
  }
};

const post = (news: WobbleNews) => self.postMessage(news);
