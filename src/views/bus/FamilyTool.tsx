import {
  bitRateColumns,
  copyLayout,
  encodePacket,
  errorColumns,
  explain,
  modeColumns,
  operationColumns,
  rawBytes,
  readBitRates,
  readErrors,
  readLayout,
  readModes,
  readOperations,
  readRegisters,
  registerColumns,
  requestOf,
  shippedLayouts,
  writeBitRates,
  writeErrors,
  writeLayout,
  writeModes,
  writeOperations,
  writeRegisters,
} from "@core/bus";
import { keepLayout, type Layout, layoutSchema, removeLayout } from "@core/project";
import { edit, editForField, newId } from "@stores/document";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { saveFile } from "../parts/saveFile";
import { ByteRow } from "./ByteRow";
import { CheckFields } from "./CheckFields";
import { FrameFields } from "./FrameFields";
import { Proof } from "./Proof";
import { TableText } from "./TableText";
import type { BusToolProps } from "./toolProps";

/** A family of smart servos as data: entered from its manual, proved with its example packets, handed on as a file. */
export default function FamilyTool({ bus }: BusToolProps) {
  const { layouts, chosen } = bus;
  const [layoutId, setLayoutId] = useState(chosen?.layout.id ?? layouts[0]?.id ?? "");
  const [said, setSaid] = useState("");
  const layout = layouts.find(({ id }) => id === layoutId) ?? layouts[0];
  if (!layout) return null;
  const { errors } = layout;
  const isShipped = shippedLayouts.includes(layout);
  const add = (one: Layout) => {
    if (edit(keepLayout(one))) setLayoutId(one.id);
  };
  const take = async (file: File | undefined) => {
    if (!file) return;
    const read = readLayout(await file.text(), newId());
    if (read.ok) add(read.value);
    setSaid(read.ok ? `${read.value.name} is here.` : read.problem);
  };
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-end gap-2">
        <ChoiceField
          label="Family"
          className="w-44"
          value={layout.id}
          choices={layouts.map(({ id, name }) => [id, name])}
          onChoose={setLayoutId}
        />
        <button
          type="button"
          className="btn btn-sm btn-primary"
          onClick={() => add(copyLayout(layout, newId(), `${layout.name} of my own`))}
        >
          New family from this one
        </button>
        <button
          type="button"
          className="btn btn-sm btn-outline"
          onClick={() =>
            saveFile(`${layout.name.toLowerCase().replaceAll(" ", "-")}.json`, writeLayout(layout), "application/json")
          }
        >
          Export
        </button>
        <label className="btn btn-sm btn-outline">
          Import…
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(event) => {
              void take(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
        </label>
        {!isShipped && (
          <button
            type="button"
            className="btn btn-sm btn-ghost ml-auto text-error"
            onClick={() => edit(removeLayout(layout.id))}
          >
            Remove it
          </button>
        )}
      </div>
      <p role="status" className="text-sm">
        {said ||
          (isShipped
            ? `${layout.name} comes with Vantel and stays as it is: begin a family of your own from it.`
            : "Everything you change holds at once, and can be undone.")}
      </p>
      <Preview layout={layout} />
      <Proof layout={layout} isShipped={isShipped} onMend={keep} />
      <fieldset disabled={isShipped} className="space-y-3">
        <FrameFields layout={layout} onChange={(change) => keep({ ...layout, ...change })} />
        <CheckFields layout={layout} onChange={(check) => keep({ ...layout, check })} />
        <TableText
          key={`operations ${layout.id}`}
          label="Operations"
          columns={operationColumns}
          text={writeOperations(layout.operations)}
          read={readOperations}
          onTake={(operations) => keep({ ...layout, operations })}
        />
        <TableText
          key={`registers ${layout.id}`}
          label="Registers"
          columns={registerColumns}
          text={writeRegisters(layout.registers)}
          read={readRegisters}
          onTake={(registers) => keep({ ...layout, registers })}
        />
        <TableText
          key={`errors ${layout.id} ${errors.kind}`}
          label={errors.kind === "bits" ? "Error bits of a reply" : "Error codes of a reply"}
          columns={errorColumns}
          text={writeErrors(errors.list)}
          read={(text) => readErrors(errors.kind, text)}
          onTake={(list) => keep({ ...layout, errors: { ...errors, list } })}
        />
        <div className="grid grid-cols-[2fr_1fr] gap-3">
          <TableText
            key={`modes ${layout.id}`}
            label="Modes"
            columns={modeColumns}
            text={writeModes(layout.modes)}
            read={readModes}
            onTake={(modes) => keep({ ...layout, modes })}
          />
          <TableText
            key={`speeds ${layout.id}`}
            label="Speeds"
            columns={bitRateColumns}
            text={writeBitRates(layout.bitRates)}
            read={readBitRates}
            onTake={(bitRates) => keep({ ...layout, bitRates })}
          />
        </div>
        <label className="sheet block">
          <span className="heading">Notes</span>
          <textarea
            className="textarea mt-1 h-20 w-full bg-base-100 text-sm"
            value={layout.notes}
            maxLength={4000}
            placeholder="Where the manual lies, what it leaves open, what was found out at the bench"
            onChange={(event) => keep({ ...layout, notes: event.target.value })}
          />
        </label>
      </fieldset>
    </div>
  );
}

/** Takes a changed family, or says why it cannot be one. */
export function keep(layout: Layout): string | null {
  const read = layoutSchema.safeParse(layout);
  if (!read.success) return `${read.error.issues[0]?.message ?? "It does not fit"}.`;
  return editForField(keepLayout(read.data));
}

/** What a packet of the family looks like as it stands. */
function Preview({ layout }: { readonly layout: Layout }) {
  const operation = layout.operations.find(({ kind }) => kind === "write") ?? layout.operations[0];
  const goal = layout.registers.find(({ role }) => role === "goalPosition") ?? layout.registers[0];
  const told = {
    address: goal?.address ?? 0,
    count: goal?.size ?? 1,
    data: goal ? rawBytes(layout, goal, goal.default) : [],
  };
  const bytes = operation ? [...encodePacket(layout, requestOf(layout, operation, layout.defaultId, told))] : [];
  return (
    <section className="sheet" aria-label="What a packet looks like">
      <h2 className="caption">
        A packet as it stands:{" "}
        {operation ? `${operation.label} ${goal?.label ?? ""} of device ${layout.defaultId}` : "no operation yet"}
      </h2>
      <ByteRow explained={explain(layout, "request", bytes)} bytes={bytes} base="hex" />
    </section>
  );
}
