import { fieldNames, hexBytes, readBytes } from "@core/bus";
import { type Field, fieldSchema, type Layout } from "@core/project";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { FieldSet } from "./FieldSet";

interface FrameFieldsProps {
  readonly layout: Layout;
  readonly onChange: (change: Partial<Layout>) => string | null;
}

/** How a packet is put together: its beginning, the order of its fields, what the length counts, stuffing, ids and speeds. */
export function FrameFields({ layout, onChange }: FrameFieldsProps) {
  const { length, stuffing } = layout;
  const bytes = (text: string, take: (found: number[]) => string | null) => {
    const found = readBytes(text);
    return found.ok ? take(found.value) : found.problem;
  };
  const whole = (text: string, take: (value: number) => string | null) =>
    /^-?\d+$/.test(text.trim()) ? take(Number(text)) : "That is not a whole number.";
  return (
    <section className="sheet grid grid-cols-4 gap-3" aria-label="How a packet is put together">
      <Line label="Name" value={layout.name} onTake={(name) => onChange({ name })} />
      <Line
        label="Header"
        value={hexBytes(layout.header)}
        onTake={(text) => bytes(text, (header) => onChange({ header }))}
      />
      <Line
        label="Header of a reply, if another"
        value={layout.replyHeader ? hexBytes(layout.replyHeader) : ""}
        onTake={(text) => bytes(text, (found) => onChange({ replyHeader: found.length > 0 ? found : null }))}
      />
      <ChoiceField
        label="Numbers of two bytes"
        value={layout.byteOrder}
        choices={[
          ["low first", "low byte first"],
          ["high first", "high byte first"],
        ]}
        onChoose={(byteOrder) => onChange({ byteOrder })}
      />
      <Line
        className="col-span-2"
        label="Fields of a request, in order"
        value={layout.requestFields.join(", ")}
        onTake={(text) => fields(text, (requestFields) => onChange({ requestFields }))}
      />
      <Line
        className="col-span-2"
        label="Fields of a reply, in order"
        value={layout.replyFields.join(", ")}
        onTake={(text) => fields(text, (replyFields) => onChange({ replyFields }))}
      />
      <FieldSet
        className="col-span-2"
        label="The length counts"
        chosen={length.counts}
        onChange={(counts) => onChange({ length: { ...length, counts } })}
      />
      <Line
        label="… and so many more"
        value={String(length.plus)}
        onTake={(text) => whole(text, (plus) => onChange({ length: { ...length, plus } }))}
      />
      <ChoiceField
        label="Bytes of the length"
        value={String(length.size)}
        choices={[
          ["1", "one"],
          ["2", "two"],
        ]}
        onChoose={(size) => onChange({ length: { ...length, size: size === "1" ? 1 : 2 } })}
      />
      <ChoiceField
        label="Byte stuffing"
        value={stuffing?.kind ?? "none"}
        choices={[
          ["none", "none"],
          ["escape", "marked bytes are escaped"],
          ["insert", "a byte is put in after a run"],
        ]}
        onChoose={(kind) =>
          onChange({
            stuffing:
              kind === "none"
                ? null
                : kind === "escape"
                  ? { kind, escape: 0x7d, xor: 0x20, marks: layout.header.slice(0, 1) }
                  : { kind, after: [...layout.header], insert: layout.header.at(-1) ?? 0 },
          })
        }
      />
      {stuffing?.kind === "escape" && (
        <>
          <Line
            label="Escape, mask"
            value={hexBytes([stuffing.escape, stuffing.xor])}
            onTake={(text) =>
              bytes(text, ([mark = 0, xor = 1]) => onChange({ stuffing: { ...stuffing, escape: mark, xor } }))
            }
          />
          <Line
            label="Marked bytes"
            value={hexBytes(stuffing.marks)}
            onTake={(text) => bytes(text, (marks) => onChange({ stuffing: { ...stuffing, marks } }))}
          />
        </>
      )}
      {stuffing?.kind === "insert" && (
        <>
          <Line
            label="After this run"
            value={hexBytes(stuffing.after)}
            onTake={(text) => bytes(text, (after) => onChange({ stuffing: { ...stuffing, after } }))}
          />
          <Line
            label="This byte is put in"
            value={hexBytes([stuffing.insert])}
            onTake={(text) => bytes(text, ([insert = 0]) => onChange({ stuffing: { ...stuffing, insert } }))}
          />
        </>
      )}
      <Line
        label="Id of a new one"
        value={String(layout.defaultId)}
        onTake={(text) => whole(text, (defaultId) => onChange({ defaultId }))}
      />
      <Line
        label="Highest id"
        value={String(layout.highestId)}
        onTake={(text) => whole(text, (highestId) => onChange({ highestId }))}
      />
      <Line
        label="Id of all, if there is one"
        value={layout.broadcastId === null ? "" : String(layout.broadcastId)}
        onTake={(text) =>
          text.trim() === "" ? onChange({ broadcastId: null }) : whole(text, (broadcastId) => onChange({ broadcastId }))
        }
      />
      <Line
        label="Bits of a byte on the wire"
        value={String(layout.bitsPerByte)}
        onTake={(text) => whole(text, (bitsPerByte) => onChange({ bitsPerByte }))}
      />
      <Line
        label="Operation code of every reply, if not the request’s"
        value={layout.replyCode === null ? "" : `0x${hexBytes([layout.replyCode])}`}
        onTake={(text) =>
          bytes(text, ([replyCode = null, ...more]) =>
            more.length > 0 ? "That is more than one byte." : onChange({ replyCode }),
          )
        }
      />
      <ChoiceField
        label="The error byte"
        value={layout.errors.kind}
        choices={[
          ["bits", "has a bit for each trouble"],
          ["codes", "is one code at a time"],
        ]}
        onChoose={(kind) => onChange({ errors: { kind, list: asKind(kind, layout.errors.list) } })}
      />
      <ChoiceField
        label="An answer is asked for by"
        value={layout.askBit === null ? "" : String(layout.askBit)}
        choices={[
          ["", "nothing: it always comes"],
          ...Array.from({ length: 8 }, (_, bit) => [String(bit), `bit ${bit} of the operation`] as const),
        ]}
        onChoose={(bit) => onChange(askedBy(layout, bit === "" ? null : Number(bit)))}
      />
      <ChoiceField
        label="A new one talks at"
        value={String(layout.defaultBitsPerS)}
        choices={[...new Set([layout.defaultBitsPerS, ...layout.bitRates.map(({ bitsPerS }) => bitsPerS)])]
          .sort((a, b) => a - b)
          .map((bitsPerS) => [String(bitsPerS), `${bitsPerS} bit/s`])}
        onChoose={(bitsPerS) => onChange({ defaultBitsPerS: Number(bitsPerS) })}
      />
    </section>
  );
}

/** The same troubles by bits or by codes: where the old numbers do not fit, they are counted anew. */
function asKind(kind: Layout["errors"]["kind"], list: Layout["errors"]["list"]): Layout["errors"]["list"] {
  if (kind === "bits") return list.slice(0, 8).map((one, bit) => ({ ...one, value: bit }));
  return list.map((one, at) => ({ ...one, value: at + 1 }));
}

/** Without a bit that asks, every operation is answered always. */
const askedBy = (layout: Layout, askBit: number | null): Partial<Layout> => ({
  askBit,
  operations:
    askBit === null ? layout.operations.map((one) => ({ ...one, answers: "always" as const })) : layout.operations,
});

function fields(text: string, take: (found: Field[]) => string | null): string | null {
  const found: Field[] = [];
  for (const word of text.split(",").map((one) => one.trim())) {
    const field = fieldSchema.safeParse(word);
    if (!field.success) return `“${word}” is none of ${Object.keys(fieldNames).join(", ")}.`;
    found.push(field.data);
  }
  return take(found);
}

interface LineProps {
  readonly label: string;
  readonly value: string;
  readonly className?: string;
  readonly onTake: (text: string) => string | null;
}

/** A line of text that is taken with Enter or on leaving; what cannot be taken stays, with the reason. */
export function Line({ label, value, className = "", onTake }: LineProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = () => {
    if (typed === null) return;
    const refusal = typed === value ? null : onTake(typed);
    setTrouble(refusal);
    if (refusal === null) setTyped(null);
  };
  return (
    <label className={`block ${className}`}>
      <span className="caption mb-0.5 block">{label}</span>
      <input
        className={`input input-sm number w-full bg-base-100 ${trouble ? "input-error" : ""}`}
        value={typed ?? value}
        spellCheck={false}
        aria-invalid={trouble !== null}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Enter") take();
          if (event.key === "Escape") {
            setTyped(null);
            setTrouble(null);
          }
        }}
      />
      {trouble && (
        <span role="alert" className="text-xs text-error">
          {trouble}
        </span>
      )}
    </label>
  );
}
