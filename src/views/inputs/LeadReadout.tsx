import { shapingOf } from "@core/inputs";
import { type Lead, type Source, setPointUnit } from "@core/project";
import type { JointBench } from "@stores/jointBench";
import { liveJoint, liveSource } from "@stores/live";
import { useCallback, useMemo } from "react";
import { formatIn, formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";

interface LeadReadoutProps {
  readonly bench: JointBench;
  readonly source: Source;
  readonly lead: Lead;
}

/** Raw number, mapped target, set point sent, and where the joint really is: side by side. */
export function LeadReadout({ bench: { joint, card, map }, source, lead }: LeadReadoutProps) {
  const shape = useMemo(() => shapingOf(lead.shapers), [lead.shapers]);
  const unit = map.targetUnit;
  const readRaw = useCallback(() => formatNumber(liveSource(source.id), 0), [source.id]);
  const readMapped = useCallback(() => formatIn(shape(liveSource(source.id)), unit), [shape, source.id, unit]);
  const setUnit = setPointUnit(card);
  const readSent = useCallback(() => formatIn(liveJoint(joint.id, "setPoint"), setUnit), [joint.id, setUnit]);
  const readActual = useCallback(
    () => (unit === "spin" ? "turning" : formatIn(liveJoint(joint.id, "actual"), unit)),
    [joint.id, unit],
  );
  return (
    <dl className="sheet grid grid-cols-4 gap-3 p-3" data-readout="lead">
      <LeadNumber name="raw" read={readRaw} />
      <LeadNumber name="mapped" read={readMapped} />
      <LeadNumber name="sent" read={readSent} />
      <LeadNumber name="actual" read={readActual} />
    </dl>
  );
}

function LeadNumber({ name, read }: { readonly name: string; readonly read: () => string }) {
  return (
    <div>
      <dt className="caption">{name}</dt>
      <dd>
        <LiveText read={read} className="text-[1.2rem] whitespace-nowrap" />
      </dd>
    </div>
  );
}
