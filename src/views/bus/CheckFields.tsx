import { checkWords, usualChecks } from "@core/bus";
import type { CheckRule, Layout } from "@core/project";
import { ChoiceField } from "../parts/ChoiceField";
import { FieldSet } from "./FieldSet";
import { Line } from "./FrameFields";

interface CheckFieldsProps {
  readonly layout: Layout;
  readonly onChange: (check: Layout["check"]) => string | null;
}

/** How the check value is made, and which bytes it covers. */
export function CheckFields({ layout, onChange }: CheckFieldsProps) {
  const { check } = layout;
  const { rule } = check;
  const words = checkWords(rule);
  const known = usualChecks.some((usual) => checkWords(usual) === words) ? usualChecks : [rule, ...usualChecks];
  const set = (changed: CheckRule) => onChange({ ...check, rule: changed });
  const hex = (text: string, take: (value: number) => string | null) =>
    /^(0x)?[0-9a-f]{1,8}$/i.test(text.trim())
      ? take(Number.parseInt(text.trim().replace(/^0x/i, ""), 16))
      : "Write it in hex, like 1021.";
  return (
    <section className="sheet grid grid-cols-4 gap-3" aria-label="The check">
      <ChoiceField
        className="col-span-2"
        label="Check"
        value={words}
        choices={known.map((usual) => [checkWords(usual), checkWords(usual)])}
        onChoose={(chosen) => {
          const found = known.find((usual) => checkWords(usual) === chosen);
          if (found) set(found);
        }}
      />
      <FieldSet
        className="col-span-2"
        label="It covers"
        chosen={check.covers}
        onChange={(covers) => onChange({ ...check, covers })}
      />
      {rule.kind === "crc" && (
        <>
          <Line
            label="Polynomial"
            value={rule.polynomial.toString(16).toUpperCase()}
            onTake={(text) => hex(text, (polynomial) => set({ ...rule, polynomial }))}
          />
          <Line
            label="Start"
            value={rule.start.toString(16).toUpperCase()}
            onTake={(text) => hex(text, (start) => set({ ...rule, start }))}
          />
          <Line
            label="Final xor"
            value={rule.finalXor.toString(16).toUpperCase()}
            onTake={(text) => hex(text, (finalXor) => set({ ...rule, finalXor }))}
          />
          <div className="space-y-1 self-end text-sm">
            {(["reflectsIn", "reflectsOut"] as const).map((side) => (
              <label key={side} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs"
                  checked={rule[side]}
                  onChange={(event) => set({ ...rule, [side]: event.target.checked })}
                />
                {side === "reflectsIn" ? "bytes reflected" : "result reflected"}
              </label>
            ))}
          </div>
          <ChoiceField
            label="Check on the wire"
            value={check.byteOrder}
            choices={[
              ["low first", "low byte first"],
              ["high first", "high byte first"],
            ]}
            onChoose={(byteOrder) => onChange({ ...check, byteOrder })}
          />
        </>
      )}
    </section>
  );
}
