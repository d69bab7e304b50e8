import { type Joint, type Mirror, type Rig, setMirror } from "@core/project";
import { edit, useProject } from "@stores/document";
import { Sheet } from "../parts/Sheet";

/** What becomes of each joint when left and right are exchanged, rig by rig. */
export function MirrorSheet({ onDone }: { readonly onDone: () => void }) {
  const rigs = useProject((project) => project.rigs);
  const joints = useProject((project) => project.joints);
  return (
    <Sheet label="Left and right" onClose={onDone} isWide>
      <h2 className="heading text-lg">Left and right</h2>
      <p className="caption mt-1">
        Say once which joints change places in a mirrored pose, and which stand in the middle and turn the other way.
      </p>
      <div className="mt-3 max-h-96 space-y-4 overflow-y-auto shows-more">
        {rigs.map((rig) => (
          <RigMirror key={rig.id} rig={rig} joints={joints.filter((joint) => joint.rigId === rig.id)} />
        ))}
      </div>
      <button type="button" className="btn btn-sm btn-primary mt-3" onClick={onDone}>
        Done
      </button>
    </Sheet>
  );
}

const stays = "stays";
const middle = "middle";

/** How a joint takes part: it stays, stands in the middle, or is one of a pair. */
function partOf(mirror: readonly Mirror[], jointId: string): string {
  for (const one of mirror) {
    if (one.kind === "middle" && one.jointId === jointId) return middle;
    if (one.kind === "pair" && one.leftId === jointId) return one.rightId;
    if (one.kind === "pair" && one.rightId === jointId) return one.leftId;
  }
  return stays;
}

const names = (one: Mirror, jointId: string) =>
  one.kind === "middle" ? one.jointId === jointId : one.leftId === jointId || one.rightId === jointId;

function RigMirror({ rig, joints }: { readonly rig: Rig; readonly joints: readonly Joint[] }) {
  const choose = (jointId: string, part: string) => {
    const others = rig.mirror.filter((one) => !names(one, jointId) && !names(one, part));
    const own: Mirror[] =
      part === stays
        ? []
        : part === middle
          ? [{ kind: "middle", jointId }]
          : [{ kind: "pair", leftId: jointId, rightId: part, sign: 1 }];
    edit(setMirror(rig.id, [...others, ...own]));
  };
  const turn = (jointId: string) =>
    edit(
      setMirror(
        rig.id,
        rig.mirror.map((one) =>
          one.kind === "pair" && names(one, jointId) ? { ...one, sign: one.sign === 1 ? -1 : 1 } : one,
        ),
      ),
    );
  if (joints.length === 0) return null;
  return (
    <section>
      <h3 className="heading">{rig.label}</h3>
      <ul>
        {joints.map((joint) => {
          const pair = rig.mirror.find((one) => one.kind === "pair" && names(one, joint.id));
          return (
            <li key={joint.id} className="flex items-center gap-2 py-0.5">
              <label htmlFor={`mirror-${joint.id}`} className="w-36 truncate">
                {joint.label}
              </label>
              <select
                id={`mirror-${joint.id}`}
                className="select select-sm w-56 bg-base-100"
                value={partOf(rig.mirror, joint.id)}
                onChange={(event) => choose(joint.id, event.target.value)}
              >
                <option value={stays}>stays as it is</option>
                <option value={middle}>in the middle: changes sign</option>
                {joints
                  .filter((other) => other.id !== joint.id)
                  .map((other) => (
                    <option key={other.id} value={other.id}>
                      changes places with {other.label}
                    </option>
                  ))}
              </select>
              {pair?.kind === "pair" && (
                <label className="flex items-center gap-1.5 text-sm">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    checked={pair.sign === -1}
                    onChange={() => turn(joint.id)}
                  />
                  with the other sign
                </label>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
