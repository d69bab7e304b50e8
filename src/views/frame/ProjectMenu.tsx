import { useProject } from "@stores/document";
import { ChevronDown } from "lucide-react";
import { useCallback, useId, useRef, useState } from "react";
import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";

const ProjectMenuBody = lazily(() => import("./ProjectMenuBody"));

/** The project's name, and behind it: export, import, the demo, and the other projects of this browser. */
export function ProjectMenu() {
  const name = useProject((project) => project.name);
  const id = useId();
  const menu = useRef<HTMLDivElement>(null);
  const [isOpen, setIsOpen] = useState(false);
  const close = useCallback(() => menu.current?.hidePopover(), []);
  return (
    <>
      <button
        type="button"
        popoverTarget={id}
        style={{ anchorName: "--project" } as React.CSSProperties}
        className="btn btn-ghost btn-sm max-w-56 gap-1 font-semibold"
      >
        <span className="truncate">{name}</span>
        <ChevronDown size={15} aria-hidden="true" />
      </button>
      <div
        id={id}
        ref={menu}
        popover="auto"
        onToggle={(event) => setIsOpen(event.newState === "open")}
        style={{ positionAnchor: "--project" } as React.CSSProperties}
        className="dropdown mt-1 w-96 rounded-box border border-base-300 bg-base-200 p-4 text-base-content shadow-xl"
      >
        {isOpen && (
          <Fetched>
            <ProjectMenuBody onDone={close} />
          </Fetched>
        )}
      </div>
    </>
  );
}
