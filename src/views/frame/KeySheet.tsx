import { Sheet } from "../parts/Sheet";
import { keyedActions } from "./actions";

const inPlace = [
  ["Arrow keys on the rack", "Walk from joint to joint"],
  ["← → on the dial", "Jog; with Shift coarse, with Alt fine"],
  ["Home on the dial", "Send the joint home"],
  ["B under Calibrate", "Begin what stands there"],
  ["J K L while stops are sought", "It moved, it stopped, it hums; R shows it again"],
  ["J K while a rest is sought", "It turns, it rests"],
  ["J while turns are counted", "The mark passes; K takes the speed"],
  ["[ ] O under Limits", "No further down, no further up, this is home"],
  ["← → on a lane", "From key to key; with Ctrl the chosen ones move in time"],
  ["↑ ↓ on a lane", "The chosen keys up or down; Shift coarse, Alt fine"],
  ["Enter, Delete on a lane", "A key at the cursor; the chosen ones away"],
  ["Ctrl A on a lane", "All its keys, with Shift those of all lanes"],
  ["Ctrl C X V", "Copy, cut, paste keys, steps and slips"],
  ["↑ ↓ in a number", "One step up or down"],
  ["Enter in a number", "Take it; sums and units may be typed"],
  ["Ctrl K", "Find any command"],
  ["?", "This sheet"],
] as const;

/** All keys on one sheet. */
export default function KeySheet({ onClose }: { readonly onClose: () => void }) {
  const groups = [...new Set(keyedActions.map((action) => action.group))];
  return (
    <Sheet label="Key sheet" onClose={onClose} isWide>
      <h2 className="heading mb-2 text-lg">Keys</h2>
      <div className="columns-2 gap-8 text-[0.8rem] leading-snug">
        {groups.map((group) => (
          <section key={group} className="mb-3 break-inside-avoid">
            <h3 className="caption">{group}</h3>
            {keyedActions
              .filter((action) => action.group === group)
              .map((action) => (
                <KeyLine key={action.id} keys={action.keys ?? []} name={action.name} />
              ))}
          </section>
        ))}
        <section>
          <h3 className="caption">In their place</h3>
          {inPlace.map(([keys, name]) => (
            <KeyLine key={keys} keys={[keys]} name={name} />
          ))}
        </section>
      </div>
    </Sheet>
  );
}

function KeyLine({ keys, name }: { readonly keys: readonly string[]; readonly name: string }) {
  return (
    <p className="flex break-inside-avoid justify-between gap-3 border-b border-base-300 py-px">
      <span>{name}</span>
      <span className="space-x-1 text-right">
        {keys.map((key) => (
          <kbd key={key}>{key}</kbd>
        ))}
      </span>
    </p>
  );
}
