import { demoProject } from "@core/demo";
import { textOfRoutine } from "@core/project";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { FromWorker, ToWorker } from "./messages";

/** The worker as it is loaded, with everything it says kept, and the prototypes of what it is made of: to break them. */
async function wake() {
  const said: FromWorker[] = [];
  const self = {
    onmessage: (_: { data: ToWorker }) => {},
    postMessage: (message: FromWorker) => {
      said.push(message);
      // As the page does: a snapshot that was looked at is handed back.
      if (message.kind === "snapshot") self.onmessage({ data: { kind: "buffer", snapshot: message.snapshot } });
    },
    close: vi.fn(),
    location: new URL("http://127.0.0.1/"),
  };
  vi.stubGlobal("self", self);
  vi.stubGlobal(
    "WebSocket",
    class {
      static OPEN = 1;
      readyState = 0;
    },
  );
  await import("./benchWorker");
  const { Bench } = await import("./bench");
  const { RemoteBench } = await import("./remote/remoteBench");
  const tell = (message: ToWorker) => self.onmessage({ data: message });
  const layOut = (revision: number) => {
    const { routines, ...project } = demoProject();
    tell({
      kind: "project",
      project,
      routines: routines.map(textOfRoutine),
      routineIds: routines.map(({ id }) => id),
      revision,
    });
  };
  layOut(1);
  const during = (ms: number) => {
    said.length = 0;
    vi.advanceTimersByTime(ms);
    return said.map(({ kind }) => kind);
  };
  const sentences = () => said.flatMap((one) => (one.kind === "refused" ? [one.sentence] : []));
  return {
    tell,
    layOut,
    during,
    sentences,
    said,
    close: self.close,
    bench: Bench.prototype,
    remote: RemoteBench.prototype,
  };
}

const breaks = () => {
  throw new Error("broken");
};

beforeEach(() => {
  vi.resetModules();
  vi.useFakeTimers();
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

test("the bench is shown as its ticks go on; what breaks beside them is told once, and keeps none from going on", async () => {
  const { during, sentences, remote } = await wake();
  expect(during(1000).filter((kind) => kind === "snapshot").length).toBeGreaterThan(3);
  vi.spyOn(remote, "tick").mockImplementation(breaks);
  expect(during(1000).filter((kind) => kind === "snapshot").length).toBeGreaterThan(3);
  expect(sentences()).toEqual(["The bench met a fault of its own and goes on: Error: broken"]);
});

test("without any way to the server the bench is laid out and goes on", async () => {
  const { layOut, during, sentences, remote } = await wake();
  vi.spyOn(remote, "configure").mockImplementation(breaks);
  layOut(2);
  expect(sentences()).toEqual(["The bench met a fault of its own and goes on: Error: broken"]);
  expect(during(1000).filter((kind) => kind === "snapshot").length).toBeGreaterThan(3);
});

test("a bench whose every tick breaks is shown no more, and once again as soon as one goes well", async () => {
  const { during, bench } = await wake();
  during(1000);
  const tick = vi.spyOn(bench, "tick").mockImplementation(breaks);
  during(100);
  expect(during(3000)).not.toContain("snapshot");
  tick.mockRestore();
  expect(during(1000)).toContain("snapshot");
});

test("a clock that cannot work out when to wake next goes on", async () => {
  const { during, bench } = await wake();
  during(1000);
  vi.spyOn(bench, "nextWakeMs", "get").mockImplementation(breaks);
  expect(during(1000).filter((kind) => kind === "snapshot").length).toBeGreaterThan(3);
});

test("a change that cannot be laid out releases everything: its limits are not in force, and the old ones are not wanted", async () => {
  const { layOut, during, sentences, bench } = await wake();
  during(1000);
  const command = vi.spyOn(bench, "command");
  const configure = vi.spyOn(bench, "configure").mockImplementation(breaks);
  layOut(2);
  expect(command).toHaveBeenCalledWith({ kind: "releaseAll" }, expect.any(Number));
  expect(sentences()).toEqual([expect.stringContaining("everything is released")]);
  configure.mockRestore();
  layOut(3);
  expect(during(1000)).toContain("snapshot");
});

test("asked to part it releases, and says so, though its last tick breaks", async () => {
  const { tell, during, said, close, bench } = await wake();
  during(1000);
  const command = vi.spyOn(bench, "command");
  vi.spyOn(bench, "tick").mockImplementation(breaks);
  said.length = 0;
  tell({ kind: "part" });
  expect(command).toHaveBeenCalledWith({ kind: "releaseAll" }, expect.any(Number));
  expect(said.at(-1)).toEqual({ kind: "parted" });
  expect(close).toHaveBeenCalled();
});
