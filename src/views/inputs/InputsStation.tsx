import { addLead, addSource, type Lead, removeLead, type Source, setLeadOutput, setSourceRange } from "@core/project";
import { edit, newId, projectNow, useProject } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { DialPanel } from "../dial/DialPanel";
import { HoldSwitch } from "../parts/HoldSwitch";
import { JointHead } from "../parts/JointHead";
import { QuantityField } from "../parts/QuantityField";
import { SelectedJoint } from "../parts/SelectedJoint";
import { Knob } from "./Knob";
import { LeadReadout } from "./LeadReadout";
import { TransferLine } from "./TransferLine";

/** Let a knob move a joint: its range, its mapping, and raw against mapped against sent against seen. */
export default function InputsStation() {
  return <SelectedJoint>{(bench) => <Inputs bench={bench} />}</SelectedJoint>;
}

function Inputs({ bench }: { readonly bench: JointBench }) {
  const { joint } = bench;
  const lead = useProject(({ leads }) => leads.find((one) => one.jointId === joint.id));
  const source = useProject(({ sources }) => sources.find((one) => one.id === lead?.sourceId));
  return (
    <div className="flex h-full flex-col">
      <JointHead bench={bench} title="by a knob">
        <HoldSwitch joint={joint} />
      </JointHead>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-5">
        <div className="min-h-0 overflow-y-auto">
          {lead && source ? <LeadBench bench={bench} lead={lead} source={source} /> : <NoLead bench={bench} />}
        </div>
        <DialPanel bench={bench} />
      </div>
    </div>
  );
}

function NoLead({ bench: { joint, map } }: { readonly bench: JointBench }) {
  const add = () => {
    let source = projectNow().sources[0];
    if (!source) {
      source = { id: newId(), label: "Bench knob", kind: "knob", range: { low: 0, high: 1023 } };
      if (edit(addSource(source))) return;
    }
    edit(
      addLead({
        id: newId(),
        sourceId: source.id,
        jointId: joint.id,
        shapers: [{ kind: "rangeMap", from: source.range, to: { low: map.lowTarget, high: map.highTarget } }],
      }),
    );
  };
  return (
    <div className="sheet mt-10 p-6 text-center">
      <h2 className="heading text-lg">Nothing leads to {joint.label} yet</h2>
      <p className="mt-1">A lead carries a source’s numbers to a joint, through a mapping that you can set.</p>
      <button type="button" className="btn btn-primary mt-4" onClick={add}>
        Lead the knob to {joint.label}
      </button>
    </div>
  );
}

interface LeadBenchProps {
  readonly bench: JointBench;
  readonly lead: Lead;
  readonly source: Source;
}

function LeadBench({ bench, lead, source }: LeadBenchProps) {
  const { map } = bench;
  const mapping = lead.shapers[0];
  const others = useProject(({ leads }) => leads).filter((one) => one.sourceId === source.id && one.id !== lead.id);
  const joints = useProject((project) => project.joints);
  if (!mapping) return null;
  const { from, to } = mapping;
  const unit = map.targetUnit === "°" ? "°" : "";
  const setRange = (low: number, high: number) =>
    edit(setSourceRange(source.id, { low, high }), { tell: false })?.problem ?? null;
  const setOutput = (low: number, high: number) =>
    edit(setLeadOutput(lead.id, low, high), { tell: false })?.problem ?? null;
  return (
    <div className="space-y-3">
      <div className="sheet flex gap-5 p-4">
        <Knob source={source} />
        <div className="grow space-y-3">
          <div className="flex items-baseline justify-between">
            <h2 className="heading">
              {source.label} → {bench.joint.label}
            </h2>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => edit(removeLead(lead.id))}>
              Remove the lead
            </button>
          </div>
          <div className="grid grid-cols-[1fr_auto_1fr] items-end gap-x-3 gap-y-2">
            <QuantityField
              label="Knob at its lowest"
              value={from.low}
              unit=""
              decimals={0}
              onCommit={(low) => setRange(low, from.high)}
            />
            <span className="pb-1.5">→</span>
            <QuantityField
              label="comes out at"
              value={to.low}
              unit={unit}
              decimals={unit ? 1 : 2}
              step={unit ? 1 : 0.05}
              onCommit={(low) => setOutput(low, to.high)}
            />
            <QuantityField
              label="Knob at its highest"
              value={from.high}
              unit=""
              decimals={0}
              onCommit={(high) => setRange(from.low, high)}
            />
            <span className="pb-1.5">→</span>
            <QuantityField
              label="comes out at"
              value={to.high}
              unit={unit}
              decimals={unit ? 1 : 2}
              step={unit ? 1 : 0.05}
              onCommit={(high) => setOutput(to.low, high)}
            />
          </div>
          <button type="button" className="btn btn-xs btn-outline" onClick={() => setOutput(to.high, to.low)}>
            Turn the mapping round
          </button>
        </div>
      </div>
      <LeadReadout bench={bench} source={source} lead={lead} />
      <TransferLine bench={bench} source={source} lead={lead} />
      {others.length > 0 && (
        <p className="caption">
          This knob also leads to{" "}
          {others.map((other) => joints.find((joint) => joint.id === other.jointId)?.label).join(", ")}.
        </p>
      )}
    </div>
  );
}
