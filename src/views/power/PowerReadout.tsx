import { amps, mayCarryA, placeLabel, runWords, volts } from "@core/power";
import { byId, type Project } from "@core/project";
import type { Chosen } from "@stores/powerView";
import type { Flow } from "./useFlow";

const caseWords = {
  now: "now",
  standing: "while all stand",
  moving: "while all turn",
  starting: "when all start together",
} as const;

/** What the chosen thing or wire carries, in a line under the drawing. */
export function PowerReadout({
  project,
  flow,
  chosen,
}: {
  readonly project: Project;
  readonly flow: Flow;
  readonly chosen: Chosen | null;
}) {
  return (
    <p className="caption mt-2 min-h-5" data-power-readout aria-live="polite">
      {chosen ? wordsOf(project, flow, chosen) : "Press a thing or a wire to see what it carries, and to change it."}
    </p>
  );
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
