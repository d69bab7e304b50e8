import type { LogEntry } from "@core/remote";
import { remoteStore } from "@stores/remote";
import { useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";

const whatWords: Readonly<Record<LogEntry["what"], string>> = {
  came: "came",
  left: "left",
  did: "did",
  refused: "was refused",
};

/** Who came to the doors, what they did, and what was refused: the newest first. */
export function LogPanel() {
  const entries = useStore(remoteStore, (view) => view.log);
  const [shown, setShown] = useState<"all" | LogEntry["what"]>("all");
  const seen = entries.filter(({ what }) => shown === "all" || what === shown).toReversed();
  return (
    <section className="sheet flex h-full min-h-0 flex-col gap-2" aria-labelledby="log-heading">
      <div className="flex items-end justify-between">
        <h2 id="log-heading" className="heading">
          What happened at the doors
        </h2>
        <ChoiceField
          label="Show"
          value={shown}
          choices={[
            ["all", "everything"],
            ["came", "who came"],
            ["did", "what was done"],
            ["refused", "what was refused"],
            ["left", "who left"],
          ]}
          onChoose={setShown}
          className="w-48"
        />
      </div>
      {seen.length === 0 ? (
        <p className="caption">Nothing yet.</p>
      ) : (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled with the arrow keys.
        <section className="min-h-0 overflow-y-auto shows-more" aria-label="Lines of the log" tabIndex={0}>
          <LogTable entries={seen} />
        </section>
      )}
    </section>
  );
}

/** The last that happened, beside those who did it. */
export function Lately() {
  const entries = useStore(remoteStore, (view) => view.log);
  if (entries.length === 0) return null;
  return (
    <section className="sheet p-3" aria-labelledby="lately-heading">
      <h2 id="lately-heading" className="heading mb-1">
        Lately
      </h2>
      <LogTable entries={entries.slice(-latelyAtMost).toReversed()} />
    </section>
  );
}

const latelyAtMost = 8;

function LogTable({ entries }: { readonly entries: readonly LogEntry[] }) {
  return (
    <table className="w-full text-sm">
      <thead className="caption text-left">
        <tr>
          <th className="w-24 font-normal">When</th>
          <th className="w-48 font-normal">Who</th>
          <th className="font-normal">What</th>
          <th className="w-16 text-right font-normal">Times</th>
        </tr>
      </thead>
      <tbody>
        {entries.map(({ id, atMs, who, what, sentence, times }) => (
          <tr key={id} className="border-t border-base-300 align-top">
            <td className="number py-1">{new Date(atMs).toLocaleTimeString("en-GB")}</td>
            <td className="max-w-48 truncate py-1 pr-2">{who}</td>
            <td className={`py-1 ${what === "refused" ? "text-error" : ""}`}>
              {whatWords[what]}: {sentence}
            </td>
            <td className="number py-1 text-right">{times > 1 ? times : ""}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
