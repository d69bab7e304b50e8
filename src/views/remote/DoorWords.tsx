import type { DoorState } from "@core/remote";

const words: Readonly<Record<DoorState["state"], string>> = {
  off: "shut",
  opening: "opening…",
  open: "open",
  lost: "not there",
};

/** How a door stands, by form and in words. */
export function DoorWords({ door }: { readonly door: DoorState | undefined }) {
  if (!door) return null;
  const { state, sentence } = door;
  return (
    <p className={`flex items-baseline gap-1.5 text-sm ${state === "lost" ? "text-error" : ""}`} role="status">
      <svg viewBox="0 0 12 12" className="size-2.5 shrink-0" aria-hidden="true">
        {state === "open" ? (
          <circle cx={6} cy={6} r={5} className="fill-success" />
        ) : state === "lost" ? (
          <path d="M2 2L10 10M10 2L2 10" className="stroke-error" strokeWidth={2.4} />
        ) : (
          <circle cx={6} cy={6} r={4.4} className="fill-none stroke-base-content/60" strokeWidth={1.4} />
        )}
      </svg>
      <span className="break-words min-w-0">{sentence || words[state]}</span>
    </p>
  );
}
