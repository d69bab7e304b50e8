import { useProject } from "@stores/document";
import { remoteStore } from "@stores/remote";
import { useStore } from "zustand";

/** For as long as others are let in, every station says so; and whose thumb is on what. */
export default function RemoteWords() {
  const isOpen = useStore(remoteStore, (view) => view.standing?.isOpen ?? false);
  const touches = useStore(remoteStore, (view) => view.touches);
  const pads = useProject((project) => project.pads);
  const [touch] = touches;
  if (!isOpen && !touch) return null;
  const control = pads.flatMap(({ controls }) => controls).find(({ id }) => id === touch?.controlId);
  const words = touch
    ? `${touch.who}${control?.label ? `: ${control.label}` : ""}${touches.length > 1 ? ` and ${touches.length - 1} more` : ""}`
    : "Others are let in";
  return (
    <a
      href="/remote"
      className={`badge max-w-44 min-w-0 shrink truncate ${isOpen ? "badge-error" : "badge-neutral"}`}
      title={isOpen ? "The door to the local network is open" : "A pad of this computer"}
    >
      <span className="truncate">{words}</span>
    </a>
  );
}
