import { amps, changes, lastsHours, type PowerCourse, placeLabel, volts, type Warmth, warmest } from "@core/power";
import { byId, type Project, type Routine } from "@core/project";
import { choosePower, powerView, usePowerView } from "@stores/powerView";
import type { CourseState } from "@stores/powerWork";
import { useMemo } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { Fetched } from "../parts/Fetched";
import { LinesChart } from "../parts/LinesChart";

interface CoursePanelProps {
  readonly project: Project;
  readonly routine: Routine | undefined;
  readonly state: CourseState;
}

/** What a routine asks of the wiring over its time, and what would ask less. */
export function CoursePanel({ project: now, routine, state: { project, course, outcomes, isBusy } }: CoursePanelProps) {
  const charge = usePowerView((view) => view.charge);
  const hasBattery = now.supplies.some(({ gives }) => gives.kind === "battery");
  if (!routine) return <p className="caption">A routine is needed to see currents over time: make one at Routine.</p>;
  return (
    <div className="flex flex-col gap-3">
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Routine"
          value={routine.id}
          choices={now.routines.map(({ id, name }) => [id, name] as const)}
          onChoose={(routineId) => powerView.setState({ routineId })}
        />
        {hasBattery && (
          <ChoiceField
            label="Batteries are"
            value={String(charge)}
            choices={[
              ["1", "full"],
              ["0.5", "half full"],
              ["0", "empty"],
            ]}
            onChoose={(next) => powerView.setState({ charge: Number(next) })}
          />
        )}
      </div>
      {isBusy && <p className="caption">Working it out…</p>}
      {project && course && (
        <>
          <div className="h-56 shrink-0">
            <Fetched>
              <CourseChart course={course} project={project} />
            </Fetched>
          </div>
          <Worst course={course} project={project} />
          <Warmest course={course} project={project} />
          <section>
            <h3 className="heading text-sm">What would ask less</h3>
            <table className="mt-1 w-full text-sm" data-compared>
              <thead>
                <tr className="caption text-left">
                  <th className="font-normal">change</th>
                  {course.supplies.map(({ supplyId }) => (
                    <th key={supplyId} className="pl-2 text-right font-normal">
                      {byId(project.supplies, supplyId).label}
                    </th>
                  ))}
                  <th className="pl-2 text-right font-normal">least at a servo</th>
                </tr>
              </thead>
              <tbody>
                {outcomes.map(({ change, mostA, leastV }) => (
                  <tr key={change} className="border-t border-base-300">
                    <th className="py-1 text-left font-normal">{changes[change]}</th>
                    {course.supplies.map(({ supplyId }) => (
                      <td key={supplyId} className="number pl-2 text-right text-xs whitespace-nowrap">
                        {amps(mostA[supplyId] ?? 0)}
                      </td>
                    ))}
                    <td className="number pl-2 text-right text-xs whitespace-nowrap">
                      {volts(Math.min(...Object.values(leastV)))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </>
      )}
    </div>
  );
}

/** Points that the eye can tell apart on a chart of this width; of each stretch the highest is kept. */
const mostPoints = 240;

function CourseChart({ course, project }: { readonly course: PowerCourse; readonly project: Project }) {
  const points = useMemo(() => {
    const length = course.supplies[0]?.givenMa.length ?? 0;
    const stride = Math.max(1, Math.ceil(length / mostPoints));
    return Array.from({ length: Math.ceil(length / stride) }, (_, at) => ({
      x: (at * stride * course.stepMs) / 1000,
      ...Object.fromEntries(
        course.supplies.map(({ supplyId, givenMa }) => [
          supplyId,
          givenMa.subarray(at * stride, (at + 1) * stride).reduce((most, ma) => Math.max(most, ma), 0) / 1000,
        ]),
      ),
    }));
  }, [course]);
  return (
    <LinesChart
      label="What each supply gives over the routine"
      points={points}
      lines={course.supplies.map(({ supplyId }) => ({
        key: supplyId,
        label: byId(project.supplies, supplyId).label,
        isStepped: true,
      }))}
      xUnit=" s"
      yUnit=" A"
    />
  );
}

/** So many of them are shown: the others have more room. */
const mostShown = 5;

/** The wires and fuses that come nearest to what they bear while the routine goes on and on. */
function Warmest({ course, project }: { readonly course: PowerCourse; readonly project: Project }) {
  const all = useMemo(() => warmest(project, course).slice(0, mostShown), [project, course]);
  if (all.length === 0) return null;
  return (
    <section>
      <h3 className="heading text-sm">What gets warmest, played on and on</h3>
      <ul className="mt-1 space-y-1 text-sm" data-warmest>
        {all.map((one) => (
          <li key={one.run.id}>
            <button
              type="button"
              className="link link-hover text-left font-semibold"
              onClick={() => choosePower({ kind: "run", id: one.run.id })}
            >
              W{project.runs.indexOf(one.run) + 1} to {placeLabel(project, one.run.to)}
            </button>
            : <span className={one.share > 1 ? "text-error" : ""}>{warmthWords(one)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function warmthWords({ heatA, most, mayCarryA, run, fuse }: Warmth): string {
  const wire = `like ${amps(heatA)} all the time, of ${amps(mayCarryA)} that it may carry; ${amps(most.value)} for a moment at ${(most.atMs / 1000).toFixed(1)} s`;
  if (!run.fuse || !fuse) return `${wire}.`;
  const rated = amps(run.fuse.ratedMa / 1000);
  if (fuse.fromS === Number.POSITIVE_INFINITY) return `${wire}; its fuse of ${rated} holds.`;
  const upTo = fuse.toS === Number.POSITIVE_INFINITY ? "or never" : `to ${longWords(fuse.toS)}`;
  return `${wire}; its fuse of ${rated} blows after ${longWords(fuse.fromS)} ${upTo}.`;
}

const longWords = (seconds: number): string =>
  seconds < 1
    ? `${Math.round(seconds * 1000)} ms`
    : seconds < 120
      ? `${Math.round(seconds)} s`
      : `${Math.round(seconds / 60)} min`;

function Worst({ course, project }: { readonly course: PowerCourse; readonly project: Project }) {
  const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
  const lowest = Object.entries(course.servos).sort(([, a], [, b]) => a.least.value - b.least.value)[0];
  const resets = Object.entries(course.boards).filter(([, board]) => board.resets.length > 0);
  return (
    <ul className="space-y-1 text-sm" data-worst>
      {course.supplies.map(({ supplyId, most, meanA, limitedMs }) => {
        const { label, gives, limitMa } = byId(project.supplies, supplyId);
        return (
          <li key={supplyId}>
            <b>{label}</b> gives {amps(most.value)} at {seconds(most.atMs)}, {amps(meanA)} on average
            {limitedMs > 0 && (
              <span className="text-error">
                ; it breaks down at {amps(limitMa / 1000)} for {seconds(limitedMs)}
              </span>
            )}
            {gives.kind === "battery" && (
              <>; it lasts {lastsHours(gives.capacityMah, meanA).toFixed(1)} h, again and again</>
            )}
            .
          </li>
        );
      })}
      {lowest && (
        <li>
          <b>{byId(project.joints, lowest[0]).label}</b> gets the least: {volts(lowest[1].least.value)} at{" "}
          {seconds(lowest[1].least.atMs)}.
        </li>
      )}
      {resets.map(([id, { resets: times, least }]) => (
        <li key={id} className="text-error">
          <b>{byId(project.boards, id).label}</b> gets {volts(least.value)} and starts anew{" "}
          {times.length === 1 ? "once" : `${times.length} times`}, first at {seconds(times[0] ?? 0)}.
        </li>
      ))}
    </ul>
  );
}
