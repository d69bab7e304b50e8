import { useHandedOff, useHandingOff } from "@stores/handingOff";
import { Opened } from "../parts/Opened";
import { CodePanel } from "./CodePanel";
import { OwnLinesPanel } from "./OwnLinesPanel";
import { TakeAlong } from "./TakeAlong";

/** What is done on the bench, as code for the machine: what is taken along, the person's own lines, and the files. */
export default function HandOffStation() {
  return (
    <Opened isStation>
      <Handing />
    </Opened>
  );
}

function Handing() {
  useHandingOff();
  const { handed, isBusy } = useHandedOff();
  return (
    <div className="grid h-full min-h-0 grid-cols-[19rem_minmax(0,1fr)] gap-4">
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto shows-more pr-1">
        <TakeAlong handed={handed?.ok ? handed.value : null} />
        <OwnLinesPanel />
      </div>
      <CodePanel handed={handed} isBusy={isBusy} />
    </div>
  );
}
