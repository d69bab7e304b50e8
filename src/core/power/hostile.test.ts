import {
  applyEdit,
  type ConnectorKind,
  connectorKinds,
  type Edit,
  type Gives,
  type Project,
  plugOrders,
  type Run,
  removeRail,
  removeRun,
  removeSupply,
  servoCable,
  setBoardPower,
  setCardPower,
  setRail,
  setRun,
  setSupply,
  setWiring,
  usualBoardPower,
} from "@core/project";
import { seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import {
  drawingOf,
  drawingSvg,
  lookAt,
  newGives,
  review,
  shoppingList,
  switchOnLines,
  wireList,
  wiringForAll,
} from ".";
import { demo } from "./fixtures";

const kinds: readonly Gives["kind"][] = ["adapter", "bench", "battery", "port", "pin", "regulator"];

/** Edits of the wiring by somebody who wires anything to anything. */
function edits(seed: number) {
  const random = seededRandom(seed);
  const one = <Item>(items: readonly Item[]): Item => items[Math.floor(random() * items.length)] as Item;
  const number = () => one([0, 0.001, 0.5, 3.3, 5, 12, 60, 1000, 50_000, -1, Number.NaN, 1e9]);
  let ids = 0;
  const next = (project: Project): Edit => {
    const { supplies, rails, runs, joints, boards, cards } = project;
    const anyId = (items: readonly { readonly id: string }[]) => (items.length > 0 ? one(items).id : "none");
    const run = (): Run => ({
      ...servoCable,
      id: random() < 0.5 ? `new-${ids++}` : anyId(runs),
      from: random() < 0.5 ? { kind: "supply", id: anyId(supplies) } : { kind: "rail", id: anyId(rails) },
      to: one([
        { kind: "rail", id: anyId(rails) },
        { kind: "supply", id: anyId(supplies) },
        { kind: "board", id: anyId(boards) },
        { kind: "joint", id: anyId(joints) },
      ] as const),
      lengthMm: number(),
      areaMm2: one([0.01, 0.13, 4, number()]),
      connector: one<ConnectorKind>(connectorKinds),
      fuse: random() < 0.3 ? { ratedMa: one([10, 500, 100_000]), blows: "fast" } : null,
      carries: one(["both", "both", "supply", "ground"]),
    });
    const found = random() < 0.3 ? review(project) : [];
    const ways = found.flatMap(({ waysOut }) => waysOut);
    if (ways.length > 0) return setWiring("Way out", one(ways).wiring);
    return one<() => Edit>([
      () => setRun(run()),
      () => setRun(run()),
      () => setRun(run()),
      () =>
        setSupply({
          id: random() < 0.5 ? `new-${ids++}` : anyId(supplies),
          label: "S",
          limitMa: one([1, 500, 60_000, number()]),
          gives: { ...newGives(one(kinds), project), ...(random() < 0.3 ? { volts: number() } : {}) } as Gives,
        }),
      () => setRail({ id: `new-${ids++}`, label: "R" }),
      () => removeRun(anyId(runs)),
      () => removeRail(anyId(rails)),
      () => removeSupply(anyId(supplies)),
      () => setBoardPower(anyId(boards), { ...usualBoardPower, logicVolts: number(), header: one(plugOrders) }),
      () => setCardPower(anyId(cards), { plug: one(plugOrders), highVolts: random() < 0.5 ? null : number() }),
      () =>
        setWiring(
          "All",
          wiringForAll(project, () => `new-${ids++}`),
        ),
    ])();
  };
  return next;
}

test("whatever is wired to whatever: sums stay numbers, sentences stay sentences, and the sheet has room for all of it", () => {
  let taken = 0;
  for (let seed = 1; seed <= 8; seed += 1) {
    const next = edits(seed);
    let project: Project = demo;
    for (let step = 0; step < 60; step += 1) {
      const done = applyEdit(next(project), project);
      if (!done.ok) {
        expect(done.problem).not.toMatch(/NaN|undefined/);
        continue;
      }
      project = done.value;
      taken += 1;
      const look = lookAt(project);
      for (const state of ["standing", "starting"] as const)
        for (const charge of [0, 1] as const) {
          const { volts, amps, givenA } = look.all(state, charge);
          for (const list of [volts, amps, givenA])
            for (const value of list) expect(value >= 0 && value < 1e9, `seed ${seed}, step ${step}`).toBe(true);
        }
      for (const { sentence } of review(project)) expect(sentence).not.toMatch(/NaN|undefined|Infinity|null/);
      const drawing = drawingOf(project);
      expect(drawing.boxes.filter(({ kind }) => kind === "joint")).toHaveLength(project.joints.length);
      for (const { points } of drawing.wires)
        for (const [x, y] of points)
          expect(x >= 0 && y >= 0 && x <= drawing.widthMm && y <= drawing.heightMm).toBe(true);
      expect(drawingSvg(project, drawing)).not.toContain("NaN");
      for (const { does, see } of switchOnLines(project)) expect(does + see).not.toMatch(/NaN|undefined/);
      expect(wireList(project)).toHaveLength(project.runs.length);
      for (const { howMuch } of shoppingList(project)) expect(howMuch).not.toContain("NaN");
    }
  }
  expect(taken).toBeGreaterThan(150);
});
