import type { Project, Rail, Run, Supply } from "@core/project";
import { seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import { type Net, netOf, noLoads, placeIn, type Solved, Solver, sourceOf } from ".";
import { adapter, bench, joint, rail, supply, wire } from "./fixtures";

const solved = (project: Project, ask: (net: Net, loads: ReturnType<typeof noLoads>) => void, charge = 1) => {
  const net = netOf(project);
  const loads = noLoads(net);
  loads.fixedA.fill(0);
  ask(net, loads);
  const done = new Solver(net).solve(loads, charge);
  return {
    net,
    loads,
    done,
    volts: (kind: "supply" | "rail" | "board" | "joint", id: string) => done.volts[placeIn(net, kind, id)] as number,
    amps: (kind: "supply" | "rail" | "board" | "joint", id: string) => done.amps[placeIn(net, kind, id)] as number,
  };
};
const siemens = (id: string, value: number) => (net: Net, loads: ReturnType<typeof noLoads>) => {
  loads.siemens[placeIn(net, "joint", id)] = value;
};

test("in series: 5 V over 1 Ω of wire and a motor of 4 Ω is 1 A, and 4 V at the motor", () => {
  const project = bench(1, { supplies: [adapter("s", 5, 3000)], runs: [wire("w", supply("s"), joint("j0"), 1)] });
  const { volts, amps } = solved(project, siemens("j0", 0.25));
  expect(amps("joint", "j0")).toBeCloseTo(1, 9);
  expect(volts("joint", "j0")).toBeCloseTo(4, 9);
});

test("in parallel behind one wire: two motors of 4 Ω are 2 Ω; over 0.5 Ω they get 4 V of 5", () => {
  const project = bench(2, {
    supplies: [adapter("s", 5, 5000)],
    rails: [{ id: "r", label: "R" }],
    runs: [
      wire("w", supply("s"), rail("r"), 0.5),
      wire("a", rail("r"), joint("j0"), 0.001),
      wire("b", rail("r"), joint("j1"), 0.001),
    ],
  });
  // 1 mΩ of contacts at each motor takes a quarter of a thousandth.
  const { volts, amps } = solved(project, (net, loads) => {
    siemens("j0", 0.25)(net, loads);
    siemens("j1", 0.25)(net, loads);
  });
  expect(volts("rail", "r")).toBeCloseTo(4, 3);
  expect(amps("rail", "r")).toBeCloseTo(2, 3);
});

test("a switching regulator takes by power, a linear one the same current; below its headroom it gives what is left", () => {
  const behind = (works: "linear" | "switching", volts: number) =>
    bench(1, {
      supplies: [
        adapter("s", volts, 9000),
        {
          id: "reg",
          label: "Reg",
          limitMa: 5000,
          gives: { kind: "regulator", works, volts: 5, headroomVolts: 1, efficiency: 0.8 },
        },
      ],
      runs: [wire("in", supply("s"), supply("reg"), 0.001), wire("out", supply("reg"), joint("j0"), 0.001)],
    });
  // 5 V and 1 A given are 5 W; at 0.8 and from 12 V that is 0.5208 A, and 5 mA of its own.
  const switching = solved(behind("switching", 12), siemens("j0", 0.2));
  expect(switching.amps("supply", "s")).toBeCloseTo(5 / 0.8 / 12 + 0.005, 2);
  expect(solved(behind("linear", 12), siemens("j0", 0.2)).amps("supply", "s")).toBeCloseTo(1.005, 2);
  const starved = solved(behind("linear", 5.5), siemens("j0", 0.2));
  expect(starved.volts("supply", "reg")).toBeCloseTo(4.5, 1);
});

test("at its limit a supply gives no more current, and so less voltage: 1 A into 2.5 Ω of motors is 2.5 V", () => {
  const project = bench(1, { supplies: [adapter("s", 5, 1000)], runs: [wire("w", supply("s"), joint("j0"), 0.001)] });
  const { volts, amps, done, net } = solved(project, siemens("j0", 0.4));
  expect(amps("supply", "s")).toBeCloseTo(1, 9);
  expect(volts("joint", "j0")).toBeCloseTo(2.5, 2);
  expect(done.isLimited[placeIn(net, "supply", "s")]).toBe(1);
});

test("a battery of two cells sags by its inner resistance, and more of it when empty", () => {
  const pack: Supply = {
    id: "s",
    label: "Pack",
    limitMa: 20_000,
    gives: { kind: "battery", chemistry: "lithium", cells: 2, capacityMah: 2000, cellMilliohm: 50 },
  };
  const project = bench(1, { supplies: [pack], runs: [wire("w", supply("s"), joint("j0"), 0.001)] });
  // 8.4 V, 0.1 Ω inside, 4.1 Ω in all but for a thousandth.
  expect(solved(project, siemens("j0", 0.25), 1).volts("supply", "s")).toBeCloseTo((8.4 * 4.001) / 4.101, 6);
  expect(solved(project, siemens("j0", 0.25), 0).volts("supply", "s")).toBeCloseTo((6.6 * 4.001) / 4.101, 6);
});

/** A random tree of rails and servos behind one supply. */
function randomTree(seed: number): { readonly project: Project; readonly loads: readonly number[] } {
  const random = seededRandom(seed);
  const [railCount, jointCount] = [1 + Math.floor(random() * 6), 1 + Math.floor(random() * 12)];
  const rails: Rail[] = Array.from({ length: railCount }, (_, at) => ({ id: `r${at}`, label: `R${at}` }));
  const anyRail = (below: number) => {
    const at = Math.floor(random() * (below + 1)) - 1;
    return at < 0 ? supply("s") : rail(`r${at}`);
  };
  const runs: Run[] = [
    ...rails.map(({ id }, at) => wire(`to-${id}`, anyRail(at), rail(id), 0.01 + random())),
    ...Array.from({ length: jointCount }, (_, at) =>
      wire(`to-j${at}`, anyRail(railCount), joint(`j${at}`), 0.01 + 3 * random()),
    ),
  ];
  const project = bench(jointCount, { supplies: [adapter("s", 3 + 9 * random(), 1e6)], rails, runs });
  return { project, loads: Array.from({ length: jointCount }, () => (random() < 0.2 ? 0 : random())) };
}

/** The same by nodal analysis: one equation for each place, solved by elimination. Knows nothing of trees. */
function byNodes(net: Net, done: Solved, loads: readonly number[]): number[] {
  const unknown = net.places.flatMap((place, at) => (place.kind === "rail" || place.kind === "joint" ? [at] : []));
  const rows = unknown.map((at) => {
    const row = new Array<number>(unknown.length + 1).fill(0);
    net.places.forEach((_, other) => {
      const between = net.parents[other] === at ? other : net.parents[at] === other ? at : -1;
      if (between < 0) return;
      const conductance = 1 / (net.ohms[between] as number);
      row[unknown.indexOf(at)] = (row[unknown.indexOf(at)] as number) + conductance;
      const column = unknown.indexOf(other);
      if (column >= 0) row[column] = (row[column] as number) - conductance;
      else row[unknown.length] = (row[unknown.length] as number) + conductance * (done.volts[other] as number);
    });
    const place = net.places[at];
    if (place?.kind === "joint")
      row[unknown.indexOf(at)] = (row[unknown.indexOf(at)] as number) + (loads[Number(place.id.slice(1))] as number);
    return row;
  });
  for (let pivot = 0; pivot < rows.length; pivot += 1) {
    const best = rows
      .slice(pivot)
      .reduce((most, row) => (Math.abs(row[pivot] as number) > Math.abs(most[pivot] as number) ? row : most));
    rows.splice(rows.indexOf(best), 1);
    rows.splice(pivot, 0, best);
    rows.forEach((row, at) => {
      if (at === pivot) return;
      const share = (row[pivot] as number) / (best[pivot] as number);
      row.forEach((value, column) => {
        row[column] = value - share * (best[column] as number);
      });
    });
  }
  const out = new Array<number>(net.places.length).fill(Number.NaN);
  rows.forEach((row, at) => {
    out[unknown[at] as number] = (row[unknown.length] as number) / (row[at] as number);
  });
  return out;
}

test("200 random trees agree with nodal analysis, what is given is what is used up, and more load raises no voltage", () => {
  for (let seed = 1; seed <= 200; seed += 1) {
    const { project, loads } = randomTree(seed);
    const load = (values: readonly number[]) => (net: Net, asked: ReturnType<typeof noLoads>) => {
      for (const [at, value] of values.entries()) siemens(`j${at}`, value)(net, asked);
    };
    const { net, done, loads: asked } = solved(project, load(loads));
    const expected = byNodes(net, done, loads);
    net.places.forEach((place, at) => {
      if (place.kind === "rail" || place.kind === "joint")
        expect(done.volts[at]).toBeCloseTo(expected[at] as number, 7);
    });
    const source = placeIn(net, "supply", "s");
    const given = (done.volts[source] as number) * (done.givenA[source] as number);
    let used = 0;
    net.places.forEach((place, at) => {
      if (at !== source) used += (net.ohms[at] as number) * (done.amps[at] as number) ** 2;
      if (place.kind === "joint") used += (asked.siemens[at] as number) * (done.volts[at] as number) ** 2;
    });
    expect(used).toBeCloseTo(given, 7);
    expect(done.volts[source]).toBe(sourceOf(project.supplies[0] as Supply, 1).volts);
    const before = Float64Array.from(done.volts);
    const more = solved(
      project,
      load(loads.map((value, at) => (at === seed % loads.length ? value + 0.5 : value))),
    ).done;
    before.forEach((value, at) => {
      expect(more.volts[at]).toBeLessThanOrEqual(value + 1e-9);
    });
  }
});
