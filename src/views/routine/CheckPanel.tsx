import { type Finding, findingTraits, mendEdit, mendWords } from "@core/feasible";
import type { Routine } from "@core/project";
import { edit, useProject } from "@stores/document";
import { stretchRoutine, useExamination } from "@stores/examination";
import { notify } from "@stores/notices";
import { scoreView } from "@stores/scoreView";
import { useMemo, useState } from "react";
import { ApartFields } from "./ApartFields";
import { momentText } from "./timeScale";

/** What the servos cannot do, where, and what would mend it; and what they are held against. */
export function CheckPanel({ routine }: { readonly routine: Routine }) {
  const { examination, speed, isBusy } = useExamination(routine.id);
  const findings = examination?.findings ?? noFindings;
  const groups = useMemo(() => grouped(findings), [findings]);
  const isTooFast = findings.some((finding) => findingTraits[finding.kind].isTooFast);
  const [isStretching, setStretching] = useState(false);
  const stretch = async () => {
    setStretching(true);
    const refusal = await stretchRoutine(routine.id);
    setStretching(false);
    if (refusal) notify(refusal, "warning");
  };
  return (
    <div
      className="flex min-h-0 grow flex-col gap-2 overflow-y-auto shows-more"
      data-readout="check"
      aria-busy={isBusy}
    >
      <p className="heading" role="status">
        {isBusy
          ? examination
            ? "Looking again, after the last change…"
            : "Looking…"
          : findings.length === 0
            ? "Its servos can do all of it."
            : findings.length === 1
              ? "One thing will not work"
              : `${findings.length} things will not work`}
      </p>
      {speed !== 1 && (
        <p className="caption">As it is played now, at {Math.round(speed * 100)} %; moments are those of the score.</p>
      )}
      {isTooFast && (
        <button
          type="button"
          className="btn btn-sm btn-primary self-start"
          title="Give all that is too fast the time it needs; what happens together still happens together"
          disabled={isStretching}
          onClick={() => void stretch()}
        >
          {isStretching ? "Stretching…" : "Stretch to feasible"}
        </button>
      )}
      <ul className="space-y-2">
        {groups.slice(0, mostLines).map((group) => (
          <FindingLine
            key={`${group.worst.kind}${group.worst.jointId}${group.worst.fromMs}`}
            routine={routine}
            {...group}
          />
        ))}
      </ul>
      {groups.length > mostLines && <p className="caption">And {groups.length - mostLines} more, further on.</p>}
      <p className="caption">
        It is held against each servo’s card, the joints’ limits, and what follows here. The dotted line in a lane is
        what the simulated servo will do.
      </p>
      <Supplies />
      <ApartFields />
    </div>
  );
}

interface FindingGroup {
  readonly worst: Finding;
  /** Other joints of which the same is true in the same step: what mends the worst mends them as well. */
  readonly others: readonly string[];
}

const noFindings: readonly Finding[] = [];
const mostLines = 60;

/** Findings of one kind in one step as one, the worst of them in front. */
function grouped(findings: readonly Finding[]): readonly FindingGroup[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const isShared = finding.stepId !== null && findingTraits[finding.kind].isShared;
    const key = isShared ? `${finding.kind}:${finding.stepId}` : `${finding.kind}:${finding.jointId}:${finding.fromMs}`;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  const excess = (finding: Finding) => finding.asked / finding.possible;
  return [...groups.values()].map((group) => {
    const [worst, ...others] = group.toSorted((a, b) => excess(b) - excess(a)) as [Finding, ...Finding[]];
    return {
      worst,
      others: [...new Set(others.flatMap((one) => one.jointId ?? []))].filter((id) => id !== worst.jointId),
    };
  });
}

function FindingLine({ routine, worst: finding, others }: FindingGroup & { readonly routine: Routine }) {
  const joints = useProject((project) => project.joints);
  const names = joints.filter((joint) => others.includes(joint.id)).map((joint) => joint.label);
  return (
    <li className="border-l-4 border-error pl-2" data-finding={finding.kind}>
      <button
        type="button"
        className="cursor-pointer text-left text-sm hover:underline"
        title="Show it in the score"
        onClick={() =>
          scoreView.setState({
            cursorMs: finding.fromMs,
            stepIds: finding.stepId ? [finding.stepId] : [],
          })
        }
      >
        <span className="number text-xs">{momentText(Math.round(finding.fromMs))}</span> {finding.sentence}
        {names.length > 0 && ` So it is with ${names.join(", ")}.`}
      </button>
      <div className="mt-1 flex flex-wrap gap-1">
        {finding.mends.map((mend) => (
          <button
            key={mendWords(mend)}
            type="button"
            className="btn btn-xs btn-outline"
            onClick={() => edit(mendEdit(routine, mend))}
          >
            {mendWords(mend)}
          </button>
        ))}
      </div>
    </li>
  );
}

function Supplies() {
  const supplies = useProject((project) => project.supplies);
  return (
    <p className="caption">
      {supplies.length === 0
        ? "No supply is on the bench, so nothing is said about currents. "
        : `Currents are held against ${supplies.map(({ label }) => label).join(", ")}. `}
      <a className="link" href="/power">
        Supplies and wires are set at Power.
      </a>
    </p>
  );
}
