import { addCalibration } from "@core/project";
import { spinCurveOf } from "@core/servo";
import { edit, newId } from "@stores/document";
import type { JointBench } from "@stores/jointBench";
import { liveJoint } from "@stores/live";
import { notify } from "@stores/notices";
import { formatNumber } from "../parts/format";
import { SetPointJog } from "./SetPointJog";

/** A continuous servo's neutral is rarely exactly 1500 µs: jog until it rests, and save that. */
export function NeutralBench({ bench: jointBench }: { readonly bench: JointBench }) {
  const { card, joint } = jointBench;
  if (card.kind !== "continuous") return null;
  const curve = spinCurveOf(card);
  const save = () => {
    const neutralUs = liveJoint(joint.id, "setPoint");
    if (!Number.isFinite(neutralUs)) {
      notify("Nothing is being sent. Hold the joint first (H).", "warning");
      return;
    }
    const refused = edit(
      addCalibration(card.id, {
        kind: "spin",
        id: newId(),
        madeAt: new Date().toISOString(),
        note: "",
        back: curve.backUs,
        neutral: neutralUs,
        forward: curve.forwardUs,
      }),
    );
    if (!refused) notify(`${joint.label} now rests at ${formatNumber(neutralUs, 1)} µs.`);
  };
  return (
    <section className="sheet space-y-3 p-3" aria-label="Neutral">
      <SetPointJog bench={jointBench} />
      <p className="caption">
        Jog until the horn rests, from either side; the middle of where it rests is neutral. The card says{" "}
        {formatNumber(curve.neutralUs, 1)} µs now.
      </p>
      <button type="button" className="btn btn-primary btn-sm w-full" onClick={save}>
        It rests here: save as neutral
      </button>
    </section>
  );
}
