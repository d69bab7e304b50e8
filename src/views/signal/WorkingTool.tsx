import { workingOf } from "@core/position";
import { notify } from "@stores/notices";
import { formatIn } from "../parts/format";
import type { SignalToolProps } from "./toolProps";

/** The calculation with the person's own numbers, line by line; to be copied or printed. */
export default function WorkingTool({ bench, target }: SignalToolProps) {
  const { joint, card, board, map } = bench;
  const parts = workingOf(bench, target);
  const title = `${joint.label} at ${formatIn(target, map.targetUnit)}: ${card.label} on ${board.label}, channel ${joint.channel}`;
  const copy = async () => {
    const text = [title, ...parts.flatMap((part) => ["", part.heading, ...part.lines.map((line) => `  ${line}`)])].join(
      "\n",
    );
    try {
      await navigator.clipboard.writeText(text);
      notify("The working is on the clipboard.");
    } catch {
      notify("This browser did not let the working onto the clipboard. Select and copy it, or print it.", "warning");
    }
  };
  return (
    <div className="h-full overflow-y-auto shows-more">
      <div className="print-sheet sheet max-w-3xl">
        <div className="flex items-baseline gap-3">
          <h2 className="heading grow">{title}</h2>
          <button type="button" className="btn btn-sm btn-outline print:hidden" onClick={() => void copy()}>
            Copy
          </button>
          <button type="button" className="btn btn-sm btn-outline print:hidden" onClick={() => print()}>
            Print
          </button>
        </div>
        {parts.map((part) => (
          <section key={part.heading} className="mt-4">
            <h3 className="caption font-semibold">{part.heading}</h3>
            <ol>
              {part.lines.map((line) => (
                <li key={line} className="number border-b border-base-300 py-1 text-[0.95rem]">
                  {line}
                </li>
              ))}
            </ol>
          </section>
        ))}
      </div>
    </div>
  );
}
