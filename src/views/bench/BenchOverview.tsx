import type { Joint } from "@core/project";
import { useProject } from "@stores/document";
import { useJointBench } from "@stores/jointBench";
import { useSelectedJoint } from "@stores/selection";
import { DialPanel } from "../dial/DialPanel";
import { FigurePicture } from "../figure/FigurePicture";
import { Opened } from "../parts/Opened";
import { WrongButton } from "../parts/WrongButton";
import { BenchTable } from "./BenchTable";

const firstSteps = [
  {
    href: "/signal",
    title: "Work out a pulse",
    text: "Type an angle; read the pulse, duty and count, and what the board’s rounding costs.",
  },
  {
    href: "/drive",
    title: "Drive it",
    text: "Drag the dial, turn the wheel, or jog with the comma and the full stop; watch target and actual part.",
  },
  { href: "/calibrate", title: "Calibrate it", text: "Two points from a protractor, and the angles come true." },
  { href: "/inputs", title: "Give it a knob", text: "Map a knob’s numbers onto the joint." },
  { href: "/poses", title: "Capture two poses", text: "Where the joints stand, under a name." },
  { href: "/routine", title: "Play them", text: "Moves and holds, in order, once or for ever." },
] as const;

/** The whole bench at a glance: what stands on it, the dial of the selected joint, and the way through the work. */
export default function BenchOverview() {
  return (
    <Opened isStation>
      <Overview />
    </Opened>
  );
}

function Overview() {
  const joint = useSelectedJoint();
  const hasFigure = useProject((project) => project.figures.length > 0);
  return (
    <div className="flex h-full flex-col gap-4">
      <h1 className="sr-only">The bench</h1>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1.45fr)_minmax(0,1fr)] gap-5">
        {hasFigure ? (
          <div className="flex min-h-0 items-center justify-center overflow-hidden rounded-box">
            <FigurePicture className="size-full" />
          </div>
        ) : (
          <BenchTable />
        )}
        {joint && <SelectedDial key={joint.id} joint={joint} />}
      </div>
      <ol className="grid shrink-0 grid-cols-6 gap-3">
        {firstSteps.map((step, index) => (
          <li key={step.href}>
            <a
              href={step.href}
              className="block h-full border-t-2 border-primary/60 pt-1.5 hover:border-primary hover:bg-base-200/60"
            >
              <span className="block font-semibold">
                <span className="number text-primary">{index + 1}</span> {step.title}
              </span>
              <span className="caption block leading-snug">{step.text}</span>
            </a>
          </li>
        ))}
      </ol>
    </div>
  );
}

function SelectedDial({ joint }: { readonly joint: Joint }) {
  const bench = useJointBench(joint);
  return (
    <section className="flex min-h-0 flex-col" aria-label={joint.label}>
      <div className="flex items-center justify-center gap-3">
        <h2 className="heading min-w-0 truncate text-lg">{joint.label}</h2>
        <WrongButton className="btn-xs shrink-0 font-normal" />
      </div>
      <DialPanel bench={bench} className="grow" />
    </section>
  );
}
