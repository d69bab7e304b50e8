import { dismiss, noticeStore } from "@stores/notices";
import { X } from "lucide-react";
import { useStore } from "zustand";

/** Where they cover nothing that could be pressed: over the trace; at the top of a sheet; over the picture on the stage. */
const places = {
  trace: "right-3 bottom-2 left-[14.2rem] z-40",
  top: "inset-x-44 top-2 justify-center",
  stage: "inset-x-12 top-28 justify-center",
} as const;

/** Sentences that belong to no field, for a while. What is laid over the bench shows them itself: what lies under it is neither seen well nor read out. */
export function Notices({ at = "trace" }: { readonly at?: keyof typeof places }) {
  const notices = useStore(noticeStore);
  return (
    <div className={`pointer-events-none fixed flex gap-2 ${places[at]}`} aria-live="polite">
      {notices.map((notice) => (
        <div
          key={notice.id}
          className={`pointer-events-auto flex max-h-[5.6rem] max-w-md grow basis-0 items-start gap-2 overflow-y-auto shows-more rounded-box border-l-4 bg-neutral p-3 text-sm text-neutral-content shadow-lg ${notice.tone === "warning" ? "border-warning" : "border-info"}`}
        >
          <span className="grow">{notice.sentence}</span>
          <button type="button" className="cursor-pointer" onClick={() => dismiss(notice.id)}>
            <X size={16} aria-hidden="true" />
            <span className="sr-only">Dismiss</span>
          </button>
        </div>
      ))}
    </div>
  );
}
