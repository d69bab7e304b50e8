import { dismiss, noticeStore } from "@stores/notices";
import { X } from "lucide-react";
import { useStore } from "zustand";

/** Sentences that belong to no field, for a while, where they cover nothing that moves. */
export default function Notices() {
  const notices = useStore(noticeStore);
  return (
    <div className="fixed right-4 bottom-28 z-40 flex w-96 flex-col gap-2" aria-live="polite">
      {notices.map((notice) => (
        <div
          key={notice.id}
          className={`flex items-start gap-2 rounded-box border-l-4 bg-neutral p-3 text-sm text-neutral-content shadow-lg ${notice.tone === "warning" ? "border-warning" : "border-info"}`}
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
