import { amps, mayCarryA, type PowerCourse, placeLabel, runWords, volts } from "@core/power";
import { byId, type Project } from "@core/project";
import type { Chosen } from "@stores/powerView";
import type { Flow } from "./useFlow";

const caseWords = {
  now: "now",
  standing: "while all stand",
  moving: "while all turn",
  starting: "when all start together",
} as const;

interface PowerReadoutProps {
  readonly project: Project;
  readonly flow: Flow;
  readonly chosen: Chosen | null;
  /** What a routine asks of all of it; null while that is worked out, or where there is none. */
  readonly course: PowerCourse | null;
  readonly routineName: string;
}

/** What the chosen thing or wire carries, and when it is at its worst, in a line under the drawing. */
export function PowerReadout({ project, flow, chosen, course, routineName }: PowerReadoutProps) {
  const worst = chosen && course ? worstOf(course, chosen) : null;
  return (
    <p className="caption mt-2 min-h-10" data-power-readout aria-live="polite">
      {chosen
        ? `${wordsOf(project, flow, chosen)}${worst ? ` Worst in ${routineName}: ${worst}.` : ""}`
        : "Press a thing or a wire to see what it carries, and to change it. Drag a thing onto a supply or a rail to feed it from there. The more a wire glows, the nearer it is to what it may carry."}
    </p>
  );
}

function worstOf(course: PowerCourse, { kind, id }: Chosen): string | null {
  const at = (atMs: number) => ` at ${(atMs / 1000).toFixed(1)} s`;
  switch (kind) {
    case "run": {
      const most = course.runs[id]?.most;
      return most ? amps(most.value) + at(most.atMs) : null;
    }
    case "supply": {
      const most = course.supplies.find(({ supplyId }) => supplyId === id)?.most;
      return most ? amps(most.value) + at(most.atMs) : null;
    }
    case "joint":
    case "board": {
      const least = (kind === "joint" ? course.servos : course.boards)[id]?.least;
      return least ? volts(least.value) + at(least.atMs) : null;
    }
    case "rail":
      return null;
  }
}

function wordsOf(project: Project, { net, solved, shows }: Flow, chosen: Chosen): string {
  const when = caseWords[shows];
  if (chosen.kind === "run") {
    const run = project.runs.find(({ id }) => id === chosen.id);
    if (!run) return "";
    const at = net.runs.indexOf(run);
    const ends = `${placeLabel(project, run.from)} to ${placeLabel(project, run.to)}: ${runWords(run)}`;
    if (at < 0)
      return `${ends}. ${run.carries === "ground" ? "A ground alone: it feeds nothing." : "It feeds what another feeds already."}`;
    const carried = solved.amps[at] as number;
    return `${ends}. It carries ${amps(carried)} of ${amps(mayCarryA(run.areaMm2))} ${when}, and loses ${volts(carried * (net.ohms[at] as number))}.`;
  }
  const at = net.places.findIndex(({ kind, id }) => kind === chosen.kind && id === chosen.id);
  const place = net.places[at];
  if (!place) return "";
  const label = placeLabel(project, place);
  if (!net.isFed[at]) return `${label} is fed by nothing.`;
  if (chosen.kind === "supply") {
    const limit = byId(project.supplies, chosen.id).limitMa / 1000;
    return `${label} gives ${amps(solved.givenA[at] as number)} of ${amps(limit)} at ${volts(solved.volts[at] as number)} ${when}.${solved.isLimited[at] ? " That is all it can: its voltage breaks down." : ""}`;
  }
  return `${label} gets ${volts(solved.volts[at] as number)} and ${amps(solved.amps[at] as number)} ${when}.`;
}
