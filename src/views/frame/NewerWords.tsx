import { loadNewer, lookForNewer, newerStore } from "@stores/newer";
import { useEffect, useState } from "react";
import { useStore } from "zustand";

let isLooking = false;

/** Says that a newer Vantel is there. To load it lets every servo go, so it is asked for twice. */
export default function NewerWords() {
  const { waiting } = useStore(newerStore);
  const [isAsked, setIsAsked] = useState(false);
  useEffect(() => {
    if (!isLooking) void lookForNewer();
    isLooking = true;
  }, []);
  if (!waiting) return null;
  return (
    <button
      type="button"
      className={`btn btn-xs min-w-6 shrink ${isAsked ? "btn-error" : "btn-outline"}`}
      title="It is loaded once all pages of Vantel are closed, or now: that lets every servo go"
      onBlur={() => setIsAsked(false)}
      onClick={() => (isAsked ? loadNewer() : setIsAsked(true))}
    >
      <span className="truncate">{isAsked ? "Let all go and load it?" : "A newer Vantel"}</span>
    </button>
  );
}
