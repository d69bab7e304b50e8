import { layoutsOf } from "@core/bus";
import { editCard, type SmartCard } from "@core/project";
import { edit, useProject } from "@stores/document";
import { ChoiceField } from "../parts/ChoiceField";

/** Which family of smart servos this one belongs to: by it its packets are built. */
export default function FamilyField({ card }: { readonly card: SmartCard }) {
  const project = useProject((whole) => whole);
  const known = layoutsOf(project);
  return (
    <ChoiceField
      label="Its family"
      className="mt-2 w-56"
      value={card.layoutId}
      choices={[
        ...(known.some(({ id }) => id === card.layoutId)
          ? []
          : [[card.layoutId, "a family that is not here"] as const]),
        ...known.map(({ id, name }) => [id, name] as const),
      ]}
      onChoose={(layoutId) =>
        edit(editCard(card.id, "family", (before) => (before.kind === "smart" ? { ...before, layoutId } : before)))
      }
    />
  );
}
