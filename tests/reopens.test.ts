import { freshMove } from "@core/steps";
import "fake-indexeddb/auto";
import { demoProject } from "@core/demo";
import { readProjectFile, writeProjectFile } from "@core/files";
import * as core from "@core/project";
import { seededRandom } from "@core/sim";
import { ProjectStore } from "@storage/projectStore";
import { expect, test } from "vitest";

/** An edit of any kind, about whatever the project holds by now, with ids that may be gone and numbers that may be odd. */
function anyEdit(project: core.Project, random: () => number, at: number): core.Edit {
  const upTo = (most: number) => Math.floor(random() * most);
  const one = <T>(list: readonly T[]): T => list[upTo(list.length)] as T;
  const idOf = (list: readonly { readonly id: string }[]) => (random() < 0.95 ? one(list)?.id : "gone") ?? "gone";
  const number = () =>
    one([0, -1, 1, 0.5, 90, -45, 1500, 1e9, Number.NaN, Number.POSITIVE_INFINITY, random() * 200 - 100]);
  const text = () => one(["Name", "", " ", "@1,2@", 'a "b"', "Ü, ß; 1", "x".repeat(100), "\u0000", "🦉"]);
  const joint = () => idOf(project.joints);
  const card = () => idOf(project.cards);
  const board = () => idOf(project.boards);
  const pose = () => idOf(project.poses);
  const routine = () => idOf(project.routines);
  const step = () => idOf(project.routines.find(({ id }) => id === project.routines[0]?.id)?.steps ?? []);
  const fresh = `new-${at}`;
  const take: core.Take = {
    id: fresh,
    name: "Take",
    madeAt: "2026-11-25T10:00:00.000Z",
    frameMs: 20,
    frames: 2,
    jointIds: [joint()],
  };
  const clip: core.Clip = {
    id: fresh,
    takeId: idOf(project.takes),
    atMs: number(),
    fromMs: 0,
    toMs: 20,
    stretch: 1,
    fadeInMs: 0,
    fadeOutMs: 0,
    mode: "add",
    jointIds: null,
    isMuted: false,
  };
  const targets = { [joint()]: number() };
  const some: (() => core.Edit)[] = [
    () => core.setFrameHz(board(), 0, number()),
    () => core.setFrameGroups(board(), upTo(5)),
    () => core.renameCard(card(), text()),
    () => core.copyCard(card(), fresh),
    () => core.removeCard(card()),
    () => core.setEndStops(card(), number(), number()),
    () => core.setWindow(card(), number(), number()),
    () => core.setTravel(joint(), number(), number()),
    () => core.setHome(joint(), number()),
    () => core.setSpeedLimit(joint(), number()),
    () => core.flipDirection(joint()),
    () => core.setSpinLimit(joint(), number()),
    () => core.setSpinUpS(joint(), number()),
    () => core.setSourceRange(idOf(project.sources), { low: number(), high: number() }),
    () => core.removeSource(idOf(project.sources)),
    () => core.renameSource(idOf(project.sources), text()),
    () => core.removeLead(idOf(project.leads)),
    () => core.addPose({ id: fresh, name: text(), group: text(), targets }),
    () => core.recapturePose(pose(), targets),
    () => core.setPoseTarget(pose(), joint(), random() < 0.3 ? null : number()),
    () => core.nudgePoses(new Set([pose(), pose()]), new Set([joint()]), number()),
    () => core.groupPoses(new Set([pose()]), text()),
    () => core.placePose(pose(), random() < 0.5 ? null : pose()),
    () => core.removePose(pose()),
    () => core.renameProject(text()),
    () => core.renameJoint(joint(), text()),
    () => core.removeCondition(idOf(project.conditions)),
    () => core.setSupply({ id: fresh, label: text(), limitMa: number(), gives: { kind: "bench", volts: number() } }),
    () =>
      core.setSupply({
        id: fresh,
        label: text(),
        limitMa: 500,
        gives: { kind: "pin", boardId: board(), volts: 5 },
      }),
    () => core.setRail({ id: fresh, label: text() }),
    () => core.removeRail(idOf(project.rails)),
    () =>
      core.setRun({
        ...core.servoCable,
        id: random() < 0.5 ? fresh : idOf(project.runs),
        from:
          random() < 0.5 ? { kind: "rail", id: idOf(project.rails) } : { kind: "supply", id: idOf(project.supplies) },
        to: random() < 0.5 ? { kind: "joint", id: joint() } : { kind: "rail", id: idOf(project.rails) },
        lengthMm: number(),
      }),
    () => core.removeRun(idOf(project.runs)),
    () => core.setBoardPower(board(), { ...core.usualBoardPower, logicVolts: number() }),
    () => core.setCardPower(idOf(project.cards), { ...core.usualCardPower, highVolts: number() }),
    () => core.removeSupply(idOf(project.supplies)),
    () => core.addRoutine({ ...core.emptyRoutine(fresh, text()), steps: [freshMove("m", pose())] }),
    () => core.removeRoutine(routine()),
    () => core.setRoutine(routine(), "notes", { notes: text() }),
    () => core.insertSteps(routine(), [{ kind: "routine", id: fresh, routineId: routine(), times: upTo(3) }], upTo(4)),
    () => core.insertSteps(routine(), [freshMove(fresh, pose())], upTo(9)),
    () => core.removeSteps(routine(), new Set([step()])),
    () => core.placeSteps(routine(), new Set([step()]), upTo(9)),
    () => core.setKeys(routine(), joint(), [{ atMs: number(), target: number(), shape: "smooth" }]),
    () => core.setLaneMode(routine(), joint(), one(["add", "replace"])),
    () => core.addTake(take),
    () => core.renameTake(idOf(project.takes), text()),
    () => core.removeTake(idOf(project.takes)),
    () => core.addClip(routine(), clip),
    () => core.removeClips(routine(), new Set([fresh])),
    () => core.rewireJoint(joint(), board(), upTo(40)),
    () => core.changeServo(joint(), card()),
    () => core.removeJoint(joint()),
    () =>
      core.addBoard({ ...(one(project.boards) ?? demoProject().boards[0]), id: fresh, label: text() } as core.Board),
    () => core.removeBoard(board()),
    () => core.renameRig(idOf(project.rigs), text()),
    () => core.removeRig(idOf(project.rigs)),
  ];
  return one(some)();
}

test("whatever is edited, undone and edited on, in whatever order: it opens again as it was, from the store and from a file", async () => {
  let [taken, refused] = [0, 0];
  for (let seed = 1; seed <= 60; seed += 1) {
    const random = seededRandom(seed);
    const store = new ProjectStore(`reopens ${seed}`);
    let project = { ...demoProject(), id: `p${seed}` };
    const past = [project];
    for (let at = 0; at < 60; at += 1) {
      if (random() < 0.1 && past.length > 1) project = past.pop() ?? project;
      else {
        const done = core.applyEdit(anyEdit(project, random, at), project);
        if (done.ok) taken += 1;
        else {
          refused += 1;
          expect(done.problem).toMatch(/[.!?]$/);
          continue;
        }
        past.push(project);
        project = done.value as typeof project;
      }
      if (random() < 0.2) await store.save(project, at);
    }
    await store.save(project, 1000);
    const stored = await new ProjectStore(`reopens ${seed}`).open(project.id);
    expect([seed, stored]).toEqual([seed, { ok: true, value: project }]);
    const samples = new Map(
      project.takes.map((take) => [
        take.id,
        { id: take.id, channels: Object.fromEntries(take.jointIds.map((id) => [id, new Float32Array(take.frames)])) },
      ]),
    );
    const filed = readProjectFile(writeProjectFile(project, samples));
    expect([seed, filed.ok && filed.value.project]).toEqual([seed, project]);
  }
  // Neither all of them were refused, nor none.
  expect(taken).toBeGreaterThan(600);
  expect(refused).toBeGreaterThan(300);
});
