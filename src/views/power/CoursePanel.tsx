import { amps, changes, lastsHours, type PowerCourse, volts } from "@core/power";
import { byId, type Project } from "@core/project";
import { powerView, usePowerView } from "@stores/powerView";
import { usePowerCourse } from "@stores/powerWork";
import { lazy, Suspense, useMemo } from "react";
import { ChoiceField } from "../parts/ChoiceField";

const LinesChart = lazy(() => import("../parts/Chart").then((chart) => ({ default: chart.LinesChart })));

/** What a routine asks of the wiring over its time, and what would ask less. */
export function CoursePanel({ project }: { readonly project: Project }) {
  const chosenId = usePowerView((view) => view.routineId);
  const charge = usePowerView((view) => view.charge);
  const routine = project.routines.find(({ id }) => id === chosenId) ?? project.routines[0];
  const { course, outcomes, isBusy } = usePowerCourse(routine?.id ?? null, charge);
  const hasBattery = project.supplies.some(({ gives }) => gives.kind === "battery");
  if (!routine) return <p className="caption">A routine is needed to see currents over time: make one at Routine.</p>;
  return (
    <div className="flex flex-col gap-3">
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Routine"
          value={routine.id}
          choices={project.routines.map(({ id, name }) => [id, name] as const)}
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
      {course && (
        <>
          <div className="h-56 shrink-0">
            <Suspense>
              <CourseChart course={course} project={project} />
            </Suspense>
          </div>
          <Worst course={course} project={project} />
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
                      <td key={supplyId} className="number pl-2 text-right">
                        {amps(mostA[supplyId] ?? 0)}
                      </td>
                    ))}
                    <td className="number pl-2 text-right">{volts(Math.min(...Object.values(leastV)))}</td>
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
