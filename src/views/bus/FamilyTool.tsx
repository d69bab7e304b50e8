import {
  copyLayout,
  encodePacket,
  explain,
  hexBytes,
  operationColumns,
  prove,
  rawBytes,
  readLayout,
  readOperations,
  readRegisters,
  registerColumns,
  requestOf,
  shippedLayouts,
  writeLayout,
  writeOperations,
  writeRegisters,
} from "@core/bus";
import { keepLayout, type Layout, layoutSchema, removeLayout } from "@core/project";
import type { Result } from "@core/result";
import { edit, newId } from "@stores/document";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { saveFile } from "../parts/saveFile";
import type { BusToolProps } from "./BusStation";
import { ByteRow } from "./ByteRow";
import { CheckFields } from "./CheckFields";
import { FrameFields } from "./FrameFields";
import { readBytes } from "./readBytes";

/** A family of smart servos as data: entered from its manual, proved with its example packets, handed on as a file. */
export default function FamilyTool({ bus }: BusToolProps) {
  const { layouts, chosen } = bus;
  const [layoutId, setLayoutId] = useState(chosen?.layout.id ?? layouts[0]?.id ?? "");
  const [said, setSaid] = useState("");
  const layout = layouts.find(({ id }) => id === layoutId) ?? layouts[0];
  if (!layout) return null;
  const isShipped = shippedLayouts.includes(layout);
  const add = (one: Layout) => {
    if (!edit(keepLayout(one))) setLayoutId(one.id);
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
      <Proof layout={layout} isShipped={isShipped} />
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
      </fieldset>
    </div>
  );
}

/** Takes a changed family, or says why it cannot be one. */
export function keep(layout: Layout): string | null {
  const read = layoutSchema.safeParse(layout);
  if (!read.success) return `${read.error.issues[0]?.message ?? "It does not fit"}.`;
  return edit(keepLayout(read.data), { tell: false })?.problem ?? null;
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

interface ProofProps {
  readonly layout: Layout;
  readonly isShipped: boolean;
}

/** Example packets of the manual against the family: they fit, or it is said which rule would make them fit. */
function Proof({ layout, isShipped }: ProofProps) {
  const [text, setText] = useState("");
  const lines = text.split(/\n/).filter((line) => line.trim() !== "");
  const read = lines.map((line) => {
    const isReply = /^\s*(<|reply)/i.test(line);
    return { isReply, bytes: readBytes(line.replace(/^\s*(<|>|reply|request):?/i, "")) };
  });
  const bad = read.find(({ bytes }) => !bytes.ok)?.bytes;
  const examples = read.flatMap(({ isReply, bytes }) =>
    bytes.ok ? [{ direction: isReply ? ("reply" as const) : ("request" as const), bytes: bytes.value }] : [],
  );
  const proof = prove(layout, bad ? [] : examples);
  return (
    <section className="sheet space-y-2" aria-label="Prove it">
      <h2 className="heading">Prove it with an example of the manual</h2>
      <label className="block">
        <span className="caption">One packet a line, in hex; a reply begins with “&lt;”</span>
        <textarea
          className="textarea number h-16 w-full bg-base-100 text-sm"
          value={text}
          spellCheck={false}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {bad && !bad.ok && (
        <p role="alert" className="text-sm text-error">
          {bad.problem}
        </p>
      )}
      {examples.map(({ direction, bytes }, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: an example is known by its line.
        <div key={at}>
          <p
            role="status"
            className={`text-sm ${proof.sentences[at]?.startsWith("It fits") ? "text-success" : "text-error"}`}
          >
            {proof.sentences[at]}
          </p>
          <ByteRow explained={explain(layout, direction, bytes)} bytes={bytes} base="hex" />
        </div>
      ))}
      {examples.length > 0 && !proof.isRight && (
        <div role="status">
          {proof.remedies.length === 0 ? (
            <p className="text-sm">
              None of the usual rules makes {examples.length === 1 ? "it" : "them"} right. Look at the header and the
              order of the fields first.
            </p>
          ) : (
            <>
              <p className="text-sm">
                It would be right with{" "}
                {proof.remedies.length === 1 ? "this rule" : "one of these rules; a second example tells them apart"}:
              </p>
              <ul className="mt-1 space-y-1">
                {proof.remedies.map((remedy) => (
                  <li key={remedy.words} className="flex items-baseline gap-2 text-sm">
                    <button
                      type="button"
                      className="btn btn-xs btn-outline"
                      disabled={isShipped}
                      onClick={() => keep(remedy.layout)}
                    >
                      Use it
                    </button>
                    {remedy.words}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
      {proof.isRight && (
        <p className="text-sm font-semibold text-success">
          Proved by {examples.length === 1 ? "this example" : `these ${examples.length} examples`}:{" "}
          {examples.map(({ bytes }) => hexBytes(bytes)).join("; ")}
        </p>
      )}
    </section>
  );
}

interface TableTextProps<Item> {
  readonly label: string;
  readonly columns: string;
  readonly text: string;
  readonly read: (text: string) => Result<Item[]>;
  readonly onTake: (items: Item[]) => string | null;
}

/** A table of the manual as lines. What cannot be read stays as it was typed, and changes nothing. */
function TableText<Item>({ label, columns, text, read, onTake }: TableTextProps<Item>) {
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = (next: string) => {
    setTyped(next);
    const items = read(next);
    setTrouble(items.ok ? onTake(items.value) : items.problem);
  };
  const shown = typed ?? text;
  return (
    <section className="sheet">
      <label className="block">
        <span className="heading">{label}</span> <span className="caption number">{columns}</span>
        <textarea
          className={`textarea number mt-1 w-full bg-base-100 text-xs whitespace-pre ${trouble ? "textarea-error" : ""}`}
          rows={Math.min(18, shown.split("\n").length + 1)}
          wrap="off"
          spellCheck={false}
          value={shown}
          aria-invalid={trouble !== null}
          onChange={(event) => take(event.target.value)}
          onBlur={() => trouble === null && setTyped(null)}
        />
      </label>
      {trouble && (
        <p role="alert" className="text-sm text-error">
          {trouble} Until then the table stays as it was.
        </p>
      )}
    </section>
  );
}
