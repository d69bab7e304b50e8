import { command } from "@stores/live";

/** The one loud control: every joint limp, at once. */
export function ReleaseAll({ className = "" }: { readonly className?: string }) {
  return (
    <button
      type="button"
      className={`btn btn-error font-bold ${className}`}
      onClick={() => command({ kind: "releaseAll" })}
    >
      Release all <kbd className="border-error-content/40 bg-transparent text-error-content">Esc</kbd>
    </button>
  );
}
