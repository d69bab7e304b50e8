import { countWithin } from "@core/encodings";
import { cardTable } from "@core/files";
import type { Project, TakeLibrary } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { jointBenchOf } from "@core/rig";
import { readyScore, sampleTrack } from "@core/routine";

export type Cell = string | number;
/** The first row names the columns, with their units. */
export type Rows = readonly (readonly Cell[])[];

/** How a table is written; `spreadsheet` is what a spreadsheet pastes. */
export type TableFormat = "csv" | "json" | "markdown" | "spreadsheet";

/** What a table is of. */
export type TableAsk =
  | { readonly kind: "joints" | "cards" | "poses" }
  | { readonly kind: "routine"; readonly routineId: string; readonly hz: number };

/** So many rows a table of a routine has at most: a spreadsheet takes no more. */
const mostRows = 1_000_000;

/** A table of what is on the bench. Fails in words where there is nothing to tell, or too much. */
export function tableOf(project: Project, takes: TakeLibrary, ask: TableAsk): Result<Rows> {
  switch (ask.kind) {
    case "joints":
      return ok(jointRows(project));
    case "cards":
      return ok(cardTable(project.cards));
    case "poses":
      return ok(poseRows(project));
    case "routine":
      return routineRows(project, takes, ask.routineId, ask.hz);
  }
}

const short = (value: number): number => Number(value.toFixed(4));

function jointRows(project: Project): Rows {
  const head = [
    "joint",
    "board",
    "channel",
    "servo",
    "unit",
    "low",
    "home",
    "high",
    "fastest_per_s",
    "direction",
    "zero_deg",
  ];
  const sent = [
    "pulse_low",
    "pulse_home",
    "pulse_high",
    "count_low",
    "count_home",
    "count_high",
    "window_low",
    "window_high",
  ];
  const rows = project.joints.map((joint) => {
    const { card, board, map, maker } = jointBenchOf(project, joint);
    const targets = [map.lowTarget, map.homeTarget, map.highTarget];
    const setPoints = targets.map((target) => map.toSetPoint(target));
    const counts = setPoints.map((setPoint) => countWithin(maker, setPoint, card.window.low, card.window.high));
    return [
      joint.label,
      board.label,
      joint.channel,
      card.label,
      map.targetUnit === "°" ? "deg" : "spin",
      ...targets,
      Number.isFinite(map.fastestPerS) ? map.fastestPerS : "",
      joint.axis.direction,
      joint.axis.kind === "angle" ? joint.axis.zeroDeg : "",
      ...setPoints.map(short),
      ...counts.map((count) => (Number.isNaN(count) ? "" : count)),
      card.window.low,
      card.window.high,
    ];
  });
  return [[...head, ...sent], ...rows];
}

function poseRows(project: Project): Rows {
  return [
    ["pose", "group", ...project.joints.map(({ label }) => label)],
    ...project.poses.map(({ name, group, targets }) => [
      name,
      group,
      ...project.joints.map(({ id }) => targets[id] ?? ""),
    ]),
  ];
}

/** What each joint of a routine is asked for over one way of it: its target, and the count that its board makes of that. */
function routineRows(project: Project, takes: TakeLibrary, routineId: string, hz: number): Result<Rows> {
  const routine = project.routines.find(({ id }) => id === routineId);
  if (!routine) return problem("That routine is no longer on the bench.");
  if (!(hz >= 0.1 && hz <= 1000)) return problem("A routine is sampled 0.1 to 1000 times a second.");
  const ready = readyScore(project, routine, takes);
  if (!ready.ok) return ready;
  const { tracks, starts, lengthMs } = ready.value;
  if (tracks.length === 0) return problem(`${routine.name} moves nothing yet.`);
  const stepMs = 1000 / hz;
  const count = Math.floor(lengthMs / stepMs + 1e-9) + 1;
  if (count > mostRows) return problem(`That would be ${count} rows. Choose a lower rate.`);
  const sampled = tracks.map((track, at) => {
    const samples = new Float32Array(count);
    sampleTrack(track, starts[at] as number, 0, stepMs, samples);
    return { samples, bench: jointBenchOf(project, project.joints[track.joint] as Project["joints"][number]) };
  });
  const head = sampled.flatMap(({ bench: { joint, map, maker } }) => [
    `${joint.label}_${map.targetUnit === "°" ? "deg" : "spin"}`,
    `${joint.label}_${maker.unit}`,
  ]);
  const rows = Array.from({ length: count }, (_, at) => [
    short(at * stepMs),
    ...sampled.flatMap(({ samples, bench: { map, maker, card } }) => {
      const target = Math.min(Math.max(samples[at] as number, map.lowTarget), map.highTarget);
      const sent = countWithin(maker, map.toSetPoint(target), card.window.low, card.window.high);
      return [short(target), Number.isNaN(sent) ? "" : sent];
    }),
  ]);
  return ok([["time_ms", ...head], ...rows]);
}

/** Rows as a table of Markdown. */
export function markdownOf([head = [], ...rows]: Rows): string {
  const line = (cells: readonly Cell[]) =>
    `| ${cells.map((cell) => String(cell).replaceAll("|", "\\|").replace(/\s+/g, " ")).join(" | ")} |`;
  return `${[line(head), `| ${head.map(() => "---").join(" | ")} |`, ...rows.map(line)].join("\n")}\n`;
}

/** Rows as JSON: an object a row, by the names of its columns. What says nothing is null. */
export const jsonOf = ([head = [], ...rows]: Rows): string =>
  `${JSON.stringify(
    rows.map((row) => Object.fromEntries(head.map((name, at) => [name, row[at] === "" ? null : row[at]]))),
    null,
    1,
  )}\n`;
