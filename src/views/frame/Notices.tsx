import { dismiss, noticeStore } from "@stores/notices";
import { X } from "lucide-react";
import { useStore } from "zustand";

/** Sentences that belong to no field, for a while: over the trace, where they cover nothing that could be pressed. */
export function Notices() {
  const notices = useStore(noticeStore);
  return (
    <div className="pointer-events-none fixed right-3 bottom-2 left-[14.2rem] z-40 flex gap-2" aria-live="polite">
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
