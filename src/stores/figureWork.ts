import type { Project } from "@core/project";
import type { FigureNews, FigureOrder } from "@worker/figureWorker";

/** The worker that looks at all that a figure can do; started when it is first asked. */
let worker: Worker | null = null;
let asked = 0;
const waiting = new Map<number, (news: FigureNews) => void>();

function start(): Worker {
  const started = new Worker(new URL("../worker/figureWorker.ts", import.meta.url), { type: "module" });
  started.onmessage = ({ data }: MessageEvent<FigureNews>) => {
    waiting.get(data.ask)?.(data);
    waiting.delete(data.ask);
  };
  // What broke must not end all asking: the next one begins with a fresh worker.
  started.onerror = () => stop();
  return started;
}

function stop(): void {
  worker?.terminate();
  worker = null;
  waiting.clear();
}

/** Asks it. Whatever it still works on is given up: only the last question counts. Gives the way to give this one up. */
export function askFigure(
  project: Project,
  order: Omit<FigureOrder, "ask" | "project">,
  answer: (news: FigureNews) => void,
): () => void {
  if (waiting.size > 0) stop();
  worker ??= start();
  asked += 1;
  const ask = asked;
  waiting.set(ask, answer);
  const { figures, rigs, joints, cards, meshes, things } = project;
  worker.postMessage({
    ...order,
    ask,
    project: { figures, rigs, joints, cards, meshes, things },
  } satisfies FigureOrder);
  return () => void waiting.delete(ask);
}
