import { byId } from "@core/project";
import { useProject } from "@stores/document";
import { formatDate } from "../parts/format";
import { PrintSheet } from "../parts/PrintSheet";
import { CardDrawing } from "./CardPrint";

/** A sheet for each rig: all its servos' cards, under the name of the project and the day. */
export function RigPrint({ onDone }: { readonly onDone: () => void }) {
  const project = useProject((current) => current);
  return (
    <PrintSheet onDone={onDone}>
      {project.rigs.map((rig) => {
        const joints = project.joints.filter((joint) => joint.rigId === rig.id);
        if (joints.length === 0) return null;
        return (
          <div key={rig.id} className="break-after-page">
            <h1 className="mb-[4mm] flex w-[180mm] items-baseline border-b-2 border-black text-[16pt] font-bold">
              {rig.label}
              <span className="ml-auto text-[9pt] font-normal">
                {project.name}, {formatDate(new Date().toISOString())}
              </span>
            </h1>
            {joints.map((joint) => (
              <CardDrawing key={joint.id} card={byId(project.cards, joint.cardId)} joint={joint} />
            ))}
          </div>
        );
      })}
    </PrintSheet>
  );
}
