import { demoProject } from "@core/demo";
import { byId, type Project } from "@core/project";
import type { Wire } from "@core/wire";
import { beforeEach, expect, test, vi } from "vitest";

const kept = new Map<string, string>();
const port: Wire = { kind: "serverPort", path: "/dev/ttyUSB0", bitsPerS: 115_200 };

beforeEach(() => {
  kept.clear();
  vi.resetModules();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  });
});

/** The stores of a freshly loaded page with this project on the bench. */
async function pageWith(project: Project) {
  const { layOut, projectNow } = await import("./document");
  const wires = await import("./wires");
  layOut(project);
  wires.recallWires(project.id);
  return {
    ...wires,
    projectNow,
    linkOf: (boardId: string) => byId(wires.asWiredHere(projectNow()).boards, boardId).link,
  };
}

const withWire = (project: Project, link: Wire): Project => ({
  ...project,
  boards: project.boards.map((board) => (board.id === "fern" ? { ...board, link } : board)),
});

test("a project from a file opens with its boards simulated, and keeps the wires it had; opening one is remembered on this computer", async () => {
  const page = await pageWith(withWire(demoProject(), port));
  expect(page.linkOf("fern")).toEqual({ kind: "simulated" });
  expect(byId(page.projectNow().boards, "fern").link).toEqual(port);
  page.openWire("fern", port);
  expect(page.linkOf("fern")).toEqual(port);
  vi.resetModules();
  const later = await pageWith(withWire(demoProject(), port));
  expect(later.linkOf("fern")).toEqual(port);
  // Another project with a wire of the same name was not opened here.
  vi.resetModules();
  const other = await pageWith({ ...withWire(demoProject(), port), id: "another" });
  expect(other.linkOf("fern")).toEqual({ kind: "simulated" });
});

test("a wire that was edited elsewhere is not the one that was opened", async () => {
  const page = await pageWith(demoProject());
  page.openWire("fern", port);
  expect(byId(page.projectNow().boards, "fern").link).toEqual(port);
  vi.resetModules();
  const later = await pageWith(withWire(demoProject(), { ...port, path: "/dev/ttyUSB1" }));
  expect(later.linkOf("fern")).toEqual({ kind: "simulated" });
});

test("closing leaves the wire with the project, and what the browser kept cannot do harm", async () => {
  const page = await pageWith(demoProject());
  page.openWire("fern", port);
  page.closeWire("fern");
  expect([page.linkOf("fern"), byId(page.projectNow().boards, "fern").link]).toEqual([{ kind: "simulated" }, port]);
  kept.set(`vantel.wires.${demoProject().id}`, "{broken");
  vi.resetModules();
  const later = await pageWith(withWire(demoProject(), port));
  expect(later.linkOf("fern")).toEqual({ kind: "simulated" });
});
