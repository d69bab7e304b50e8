import { assembleBench, Meetings, meetingWords, stand, standing } from "@core/figure";
import { homeTargetOf, type Pose, type Project } from "@core/project";
import { useMemo } from "react";

/** What the figures would meet in a pose, joints that it leaves alone standing at home; nothing where they meet nothing. */
export function PoseMeetings({ project, pose }: { readonly project: Project; readonly pose: Pose }) {
  const looking = useMemo(() => {
    const assembly = assembleBench(project);
    return { meetings: new Meetings(project, assembly), now: standing(assembly) };
  }, [project]);
  const met = useMemo(() => {
    if (project.figures.length === 0) return [];
    const { meetings, now } = looking;
    project.joints.forEach((joint, place) => {
      now.targets[place] = pose.targets[joint.id] ?? homeTargetOf(joint);
    });
    stand(now);
    return meetings.all(now).slice(0, 3);
  }, [looking, project, pose]);
  if (met.length === 0) return null;
  return (
    <ul className="mt-1 text-sm text-error" aria-label="What meets in this pose">
      {met.map(({ partId, other }) => (
        <li key={`${partId} ${JSON.stringify(other)}`}>{meetingWords(project, { partId, other })} in this pose.</li>
      ))}
    </ul>
  );
}
