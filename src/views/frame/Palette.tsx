import { Command } from "cmdk";
import { useMemo } from "react";
import { Sheet } from "../parts/Sheet";
import { actionsNow } from "./found";

/** Finds any command by a few letters of its name. */
export default function Palette({ onClose }: { readonly onClose: () => void }) {
  const actions = useMemo(actionsNow, []);
  const groups = [...new Set(actions.map((action) => action.group))];
  return (
    <Sheet label="Find a command" onClose={onClose}>
      <Command label="Find a command" loop>
        <Command.Input data-first placeholder="Type what you want to do" className="input w-full bg-base-100" />
        <Command.List className="mt-2 h-80 overflow-y-auto shows-more">
          <Command.Empty className="caption p-4">Nothing here is called that.</Command.Empty>
          {groups.map((group) => (
            <Command.Group
              key={group}
              heading={group}
              className="[&_[cmdk-group-heading]]:caption [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2"
            >
              {actions
                .filter((action) => action.group === group)
                .map((action) => (
                  <Command.Item
                    key={action.id}
                    value={`${action.name} ${group}`}
                    keywords={[...(action.alike ?? [])]}
                    onSelect={() => {
                      onClose();
                      action.run();
                    }}
                    className="flex cursor-pointer items-center justify-between rounded-sm px-2 py-1 aria-selected:bg-primary aria-selected:text-primary-content"
                  >
                    {action.name}
                    {action.keys && <kbd className="text-base-content">{action.keys[0]}</kbd>}
                  </Command.Item>
                ))}
            </Command.Group>
          ))}
        </Command.List>
      </Command>
    </Sheet>
  );
}
