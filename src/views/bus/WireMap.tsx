import { busStore, type DeviceOnTable } from "@stores/bus";
import { type BusBench, chooseDevice, type Device, deviceName, speedWords } from "@stores/busBench";
import { askSimulation } from "@stores/live";
import { select } from "@stores/selection";
import { useStore } from "zustand";

const phaseWords = {
  unknown: "being asked",
  limp: "limp",
  waking: "being switched on",
  held: "held",
  silent: "silent",
} as const;

/** Who is on the wire, in the order of their numbers; and what lies beside it, since this bus is simulated. */
export function WireMap({ bus }: { readonly bus: BusBench }) {
  const boxed = useStore(busStore, (state) => state.table?.devices) ?? [];
  return (
    <section aria-label="Who is on the wire" className="flex min-h-0 flex-col overflow-y-auto shows-more pr-1">
      <ol className="relative ml-3 border-l-[3px] border-base-content/70 py-1">
        <li className="caption mb-2 -ml-3 flex items-center gap-2">
          <span
            className="inline-block size-5 rounded-sm border-2 border-base-content/70 bg-base-200"
            aria-hidden="true"
          />
          {bus.board.label}, the adapter
        </li>
        {bus.devices.map((device) => (
          <li key={`${device.layout.id} ${device.id}`} className="relative mb-1.5 pl-5">
            <span className="absolute top-1/2 left-0 w-4 border-t-[3px] border-base-content/70" aria-hidden="true" />
            <DevicePlate device={device} isChosen={bus.chosen === device} />
          </li>
        ))}
      </ol>
      {bus.devices.length === 0 && <p className="caption">Nobody is known to be on this wire: scan for them.</p>}
      <h2 className="heading mt-3 text-sm">On the table</h2>
      <p className="caption mb-1">This bus is simulated: plug its servos in and out as you would real ones.</p>
      <ul className="space-y-0.5">
        {boxed.map((entry) => (
          <TableEntry key={entry.key} entry={entry} boardId={bus.board.id} />
        ))}
      </ul>
    </section>
  );
}

function DevicePlate({ device, isChosen }: { readonly device: Device; readonly isChosen: boolean }) {
  const { layout, id, joint, isClash, strayBitsPerS, phase } = device;
  const trouble = isClash
    ? "two answer as this number"
    : strayBitsPerS !== null
      ? `found at ${speedWords(strayBitsPerS)}`
      : phase === "silent"
        ? "does not answer"
        : null;
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      className={`flex w-full cursor-pointer items-center gap-2 rounded-box border px-2 py-1 text-left ${isChosen ? "border-primary bg-base-200" : "border-base-300 hover:border-base-content/40"}`}
      onClick={() => {
        chooseDevice({ layoutId: layout.id, id });
        if (joint) select(joint.id);
      }}
    >
      <span className={`number w-9 text-right text-lg ${trouble ? "text-error" : ""}`}>{id}</span>
      <span className="min-w-0 grow leading-tight">
        <span className="block truncate font-medium">{deviceName(device)}</span>
        <span className={`caption block truncate ${trouble ? "text-error" : ""}`}>
          {trouble ?? `${layout.name}, ${phase ? phaseWords[phase] : joint ? "a joint" : "no joint"}`}
        </span>
      </span>
      {trouble && (
        <svg viewBox="0 0 12 12" className="size-3.5 shrink-0" aria-hidden="true">
          <path d="M6 1L11.5 11H.5Z" className="fill-none stroke-error" strokeWidth={1.5} />
          <path d="M6 4.4V7.6M6 8.7V9.8" className="stroke-error" strokeWidth={1.5} />
        </svg>
      )}
    </button>
  );
}

function TableEntry({ entry, boardId }: { readonly entry: DeviceOnTable; readonly boardId: string }) {
  return (
    <li>
      <label className="flex cursor-pointer items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="toggle toggle-xs"
          checked={entry.isPlugged}
          onChange={(event) =>
            askSimulation(boardId, { kind: "plugDevice", key: entry.key, isPlugged: event.target.checked })
          }
        />
        <span className="truncate">{entry.label}</span>
        <span className="caption ml-auto whitespace-nowrap">{entry.isPlugged ? "plugged in" : "beside it"}</span>
      </label>
    </li>
  );
}
