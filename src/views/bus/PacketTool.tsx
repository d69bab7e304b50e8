import {
  type AskedPacket,
  askedBy,
  checkWorking,
  dissect,
  encodePacket,
  explain,
  hexBytes,
  operationFor,
  parameterWords,
  readBytes,
  whySilent,
} from "@core/bus";
import type { Layout } from "@core/project";
import { runOnBus } from "@stores/bus";
import { useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { ByteRow } from "./ByteRow";
import { type Base, bases } from "./bases";
import type { BusToolProps } from "./toolProps";
import { WireLog } from "./WireLog";

/** Builds a packet, explains every byte of it, sends it, and shows what came back, or why there may be silence. */
export default function PacketTool({ bus }: BusToolProps) {
  const { layouts, chosen } = bus;
  const [layoutId, setLayoutId] = useState(chosen?.layout.id ?? layouts[0]?.id ?? "");
  const layout = layouts.find(({ id }) => id === layoutId) ?? layouts[0];
  if (!layout) return null;
  return (
    <div className="space-y-4">
      <PacketBench key={layout.id} bus={bus} layout={layout}>
        <ChoiceField
          label="Family"
          value={layout.id}
          choices={layouts.map(({ id, name }) => [id, name])}
          onChoose={setLayoutId}
        />
      </PacketBench>
      <WireLog bus={bus} />
    </div>
  );
}

interface PacketBenchProps extends BusToolProps {
  readonly layout: Layout;
  readonly children: React.ReactNode;
}

function PacketBench({ bus, layout, children }: PacketBenchProps) {
  const { chosen, board } = bus;
  const ping = operationFor(layout, "ping") ?? layout.operations[0];
  const firstId = chosen?.layout.id === layout.id ? chosen.id : layout.defaultId;
  const [code, setCode] = useState(ping?.code ?? 0);
  const [idText, setIdText] = useState(String(firstId));
  const [parameters, setParameters] = useState("");
  const [asksReply, setAsksReply] = useState(true);
  const [typed, setTyped] = useState<string | null>(null);
  const [base, setBase] = useState<Base>("hex");
  const [answer, setAnswer] = useState<{
    bytes: readonly Uint8Array[];
    asked: AskedPacket | null;
    sentence: string;
  } | null>(null);

  const read = readBytes(parameters);
  const operation = layout.operations.find((one) => one.code === code);
  const isOnRequest = operation?.answers === "when asked";
  const packet = {
    direction: "request" as const,
    id: Number(idText) & 0xff,
    operation: code,
    asksReply: isOnRequest && asksReply,
    error: 0,
    parameters: Uint8Array.from(read.ok ? read.value : []),
  };
  const built = hexBytes(encodePacket(layout, packet));
  const text = typed ?? built;
  const bytes = readBytes(text);
  const explained = explain(layout, "request", bytes.ok ? bytes.value : []);

  /** What stands in the typed bytes goes back into the fields. */
  const type = (next: string) => {
    setTyped(next);
    const found = readBytes(next);
    const whole = found.ok ? dissect(layout, "request", found.value).packet : null;
    if (!whole) return;
    setCode(whole.operation);
    setIdText(String(whole.id));
    setParameters(hexBytes(whole.parameters));
    setAsksReply(whole.asksReply);
  };
  const field = (change: () => void) => {
    setTyped(null);
    change();
  };
  const send = async () => {
    if (!bytes.ok) return;
    const sent = Uint8Array.from(bytes.value);
    const told = await runOnBus(board.id, { kind: "packet", layoutId: layout.id, bytes: sent });
    if (told.kind === "refused") setAnswer({ bytes: [], asked: null, sentence: told.sentence });
    if (told.kind !== "answered") return;
    const asked = askedBy(layout, sent);
    const sentence =
      told.replies.length > 0
        ? `${told.replies.length === 1 ? "A reply" : `${told.replies.length} replies`} after ${(told.tookUs / 1000).toFixed(2)} ms.`
        : told.noise.length > 0
          ? `Something came back that is no packet: ${hexBytes(told.noise.flatMap((piece) => [...piece]))}. Two with one id, or noise on the wire.`
          : whySilent(layout, explained.dissection.packet, bus.devices);
    setAnswer({ bytes: told.replies, asked, sentence });
  };

  return (
    <section className="space-y-3" aria-label="Packet">
      <div className="sheet space-y-2">
        <div className="grid grid-cols-[6.5rem_4rem_10rem_minmax(0,1fr)_6.5rem] items-end gap-2">
          {children}
          <TextField label="To id" value={idText} onChange={(next) => field(() => setIdText(next))} />
          <ChoiceField
            label="Operation"
            value={String(code)}
            choices={layout.operations.map((one) => [String(one.code), `${hexBytes([one.code])} ${one.label}`])}
            onChoose={(next) => field(() => setCode(Number(next)))}
          />
          <TextField
            label={`Parameters: ${parameterWords(layout, code)}`}
            value={parameters}
            onChange={(next) => field(() => setParameters(next))}
            trouble={read.ok ? null : read.problem}
          />
          <ChoiceField
            label="Shown in"
            value={base}
            choices={Object.entries(bases) as [Base, string][]}
            onChoose={setBase}
          />
        </div>
        <div className="flex items-end gap-2">
          <div className="grow">
            <TextField
              label="The bytes, as they go out"
              value={text}
              onChange={type}
              trouble={bytes.ok ? null : bytes.problem}
              isNumber
            />
          </div>
          {isOnRequest && (
            <label className="flex h-8 items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={asksReply}
                onChange={(event) => {
                  const isAsked = event.target.checked;
                  field(() => setAsksReply(isAsked));
                }}
              />
              Ask for an answer
            </label>
          )}
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={!bytes.ok || bytes.value.length === 0}
            onClick={() => void send()}
          >
            Send
          </button>
        </div>
        <ByteRow explained={explained} bytes={bytes.ok ? bytes.value : []} base={base} />
        <p role="status" className={`text-sm ${explained.dissection.status === "whole" ? "" : "text-error"}`}>
          {explained.sentence}
        </p>
        <CheckWorkingOut layout={layout} dissection={explained.dissection} />
      </div>
      {answer && (
        <section className="sheet space-y-2" aria-label="What came back">
          <p role="status">{answer.sentence}</p>
          {answer.bytes.map((reply) => {
            const said = explain(layout, "reply", reply, answer.asked);
            return (
              <div key={hexBytes(reply)}>
                <ByteRow explained={said} bytes={[...reply]} base={base} />
                <p className="text-sm">{said.sentence}</p>
              </div>
            );
          })}
        </section>
      )}
    </section>
  );
}

function CheckWorkingOut({
  layout,
  dissection,
}: {
  readonly layout: Layout;
  readonly dissection: ReturnType<typeof dissect>;
}) {
  const { steps, endings, value, digits } = checkWorking(layout, dissection);
  if (!dissection.parts.some(({ field }) => field === "check")) return null;
  return (
    <details className="text-sm">
      <summary className="cursor-pointer">
        The check, step by step: 0x{value.toString(16).toUpperCase().padStart(digits, "0")}
      </summary>
      <ol className="number mt-1 list-decimal space-y-0.5 pl-8 text-xs">
        {steps.map((step, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the same byte may come twice; its place is what it is.
          <li key={at}>
            {step.words}
            {step.shifts.length > 0 && (
              <span className="caption">
                {" "}
                (
                {step.shifts
                  .map(
                    ({ value: crc, fellOut }) => `${fellOut}→${crc.toString(16).toUpperCase().padStart(digits, "0")}`,
                  )
                  .join(" ")}
                )
              </span>
            )}
          </li>
        ))}
        {endings.map((ending) => (
          <li key={ending}>{ending}</li>
        ))}
      </ol>
    </details>
  );
}

interface TextFieldProps {
  readonly label: string;
  readonly value: string;
  readonly trouble?: string | null;
  readonly isNumber?: boolean;
  readonly onChange: (value: string) => void;
}

function TextField({ label, value, trouble = null, isNumber = false, onChange }: TextFieldProps) {
  return (
    <label className="block">
      <span className="caption mb-0.5 block truncate">{label}</span>
      <input
        className={`input input-sm w-full bg-base-100 ${isNumber ? "number" : ""} ${trouble ? "input-error" : ""}`}
        value={value}
        aria-invalid={trouble !== null}
        spellCheck={false}
        onChange={(event) => onChange(event.target.value)}
      />
      {trouble && (
        <span role="alert" className="text-xs text-error">
          {trouble}
        </span>
      )}
    </label>
  );
}
