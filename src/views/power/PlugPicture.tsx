import { plugRoles, plugTraps, wireColour } from "@core/power";
import type { PlugOrder, ServoCard } from "@core/project";

interface PlugPictureProps {
  readonly plug: PlugOrder;
  /** The order of the board's pins; null where there are none to plug it onto. */
  readonly header: PlugOrder | null;
  readonly wires: ServoCard["wires"];
}

/** A servo's plug beside the pins that it goes onto: each wire in its own colour, and whether they meet. */
export function PlugPicture({ plug, header, wires }: PlugPictureProps) {
  const pins = header && plugRoles[header];
  return (
    <div data-plug>
      <ol className="mt-1 grid grid-cols-[auto_auto_1fr] items-center gap-x-2 gap-y-0.5 text-sm">
        {plugRoles[plug].map((role, at) => (
          <li key={role} className="contents">
            <span
              className="h-2.5 w-8 rounded-field border border-base-content"
              style={{ background: wireColour({ colour: wires[role] || null, role }) }}
            />
            <span>
              {role}
              {wires[role] && `, ${wires[role]}`}
            </span>
            <span className={`caption ${pins && pins[at] !== role ? "text-error" : ""}`}>
              {pins ? (pins[at] === role ? "meets its pin" : `meets the pin for ${pins[at]}`) : ""}
            </span>
          </li>
        ))}
      </ol>
      <p className="caption mt-1">{plugTraps[plug]}</p>
    </div>
  );
}
