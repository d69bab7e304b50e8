import type { Project } from "@core/project";
import type { FigureNews, FigureOrder } from "@worker/figureWorker";

/** One worker for each kind of answer: a cloud and the worst stances may be asked for at once. Started when it is first asked. */
type Answer = FigureNews["kind"];
const answerOf = (kind: FigureOrder["kind"]): Answer => (kind === "worst" ? "worst" : "cloud");

interface Asking {
  readonly worker: Worker;
  /** The question that it works on; none while it rests. */
  ask: number | null;
}

const workers = new Map<Answer, Asking>();
let asked = 0;

/** Asks for something that takes a while. Of two questions of one kind only the last counts. Gives the way to give this one up. */
export function askFigure(
  project: Project,
  order: Omit<FigureOrder, "ask" | "project">,
  answer: (news: FigureNews) => void,
): () => void {
  const kind = answerOf(order.kind);
  giveUp(kind);
  const asking = workers.get(kind) ?? { worker: start(), ask: null };
  workers.set(kind, asking);
  asked += 1;
  const ask = asked;
  asking.ask = ask;
  asking.worker.onmessage = ({ data }: MessageEvent<FigureNews>) => {
    if (data.ask !== ask) return;
    asking.ask = null;
    answer(data);
  };
  // What broke must not end all asking: the next question begins with a fresh worker.
  asking.worker.onerror = () => giveUp(kind);
  const { figures, rigs, joints, cards, meshes, things } = project;
  asking.worker.postMessage({
    ...order,
    ask,
    project: { figures, rigs, joints, cards, meshes, things },
  } satisfies FigureOrder);
  return () => {
    if (asking.ask === ask) giveUp(kind);
  };
}

const start = (): Worker => new Worker(new URL("../worker/figureWorker.ts", import.meta.url), { type: "module" });

/** Ends a worker that is still busy: a long look cannot be interrupted otherwise. */
function giveUp(kind: Answer): void {
  const asking = workers.get(kind);
  if (!asking || asking.ask === null) return;
  asking.worker.terminate();
  workers.delete(kind);
}
