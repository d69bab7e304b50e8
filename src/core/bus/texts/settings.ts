import { type Layout, layoutSchema, type Register } from "@core/project";
import { ok, problem, type Result } from "@core/result";
import * as z from "zod/mini";
import type { Ask, Procedure } from "../procedures/procedure";
import { type SetUpOutcome, type StepsProgress, writeValue } from "../procedures/setUp";
import { checkRaw, registerFor } from "../registers/registers";
import { layoutOfVersion4, settingsOfVersion1 } from "./earlier";

const settingsFormat = "vantel-device-settings";
const layoutFormat = "vantel-layout";

const settingsSchema = z.strictObject({
  format: z.literal(settingsFormat),
  version: z.union([z.literal(1), z.literal(2)]),
  layoutId: z.string(),
  layoutName: z.string(),
  /** The registers that it keeps without supply, by their labels. */
  values: z.record(z.string(), z.number()),
});

/** Those of a device's registers that make it what it is: stored, to be written, and not its place on the bus. */
export const settingsOf = (layout: Layout): readonly Register[] =>
  layout.registers.filter(
    ({ access, memory, role }) => access === "write" && memory === "stored" && role !== "id" && role !== "bitRate",
  );

/** What a device is set to, as a file. */
export function writeSettings(layout: Layout, values: ReadonlyMap<number, number>): string {
  const kept = settingsOf(layout).flatMap((register) => {
    const raw = values.get(register.address);
    return raw === undefined ? [] : [[register.label, raw] as const];
  });
  const file = {
    format: settingsFormat,
    version: 2,
    layoutId: layout.id,
    layoutName: layout.name,
    values: Object.fromEntries(kept),
  };
  return `${JSON.stringify(file, null, 2)}\n`;
}

/** What a file of settings would write, by address. Whatever does not fit refuses the whole. */
export function readSettings(layout: Layout, text: string): Result<ReadonlyMap<number, number>> {
  const parsed = settingsSchema.safeParse(jsonIn(text));
  if (!parsed.success) return problem("This is no file of a device's settings.");
  if (parsed.data.layoutId !== layout.id)
    return problem(`These are the settings of a ${parsed.data.layoutName}, and this is a ${layout.name}.`);
  const values = new Map<number, number>();
  const told = parsed.data.version === 1 ? settingsOfVersion1(layout.id, parsed.data.values) : parsed.data.values;
  for (const [label, raw] of Object.entries(told)) {
    const register = settingsOf(layout).find((one) => one.label === label);
    if (!register) return problem(`${layout.name} has no setting “${label}”. Nothing was written.`);
    const checked = checkRaw(register, raw);
    if (!checked.ok) return problem(`${checked.problem} The file says ${raw}. Nothing was written.`);
    values.set(register.address, raw);
  }
  return ok(values);
}

/** Writes the settings that differ, and says of each that was not taken. */
export function* restore(
  layout: Layout,
  id: number,
  wanted: ReadonlyMap<number, number>,
  now: ReadonlyMap<number, number>,
): Procedure<StepsProgress, SetUpOutcome> {
  const differing = [...wanted].filter(([address, raw]) => now.get(address) !== raw);
  const refused: string[] = [];
  for (const [at, [address, raw]] of differing.entries()) {
    const label = layout.registers.find((register) => register.address === address)?.label ?? "";
    const progress: Ask<StepsProgress> = { kind: "progress", progress: { done: at, of: differing.length, at: label } };
    yield progress;
    const written = yield* writeValue(layout, id, address, raw, true);
    if (!written.isDone) refused.push(written.sentence);
  }
  return refused.length === 0
    ? { isDone: true, sentence: `${differing.length} of ${wanted.size} settings differed and are written.` }
    : { isDone: false, sentence: refused.join(" ") };
}

/** A family as a file to hand on. */
export const writeLayout = (layout: Layout): string =>
  `${JSON.stringify({ format: layoutFormat, version: 2, layout }, null, 2)}\n`;

/** A family from a file; the id is the caller's, since the one in the file may be taken. */
export function readLayout(text: string, id: string): Result<Layout> {
  const version = z.union([z.literal(1), z.literal(2)]);
  const file = z.object({ format: z.literal(layoutFormat), version, layout: z.looseObject({}) });
  const parsed = file.safeParse(jsonIn(text));
  if (!parsed.success) return problem("This is no file of a family of smart servos.");
  const told = parsed.data.version === 1 ? layoutOfVersion4(parsed.data.layout) : parsed.data.layout;
  const layout = layoutSchema.safeParse({ ...told, id });
  if (layout.success) return ok(layout.data);
  const issue = layout.error.issues[0];
  return problem(
    `The family is damaged at ${issue?.path.join(" → ") || "its beginning"}: ${issue?.message}. Nothing was changed.`,
  );
}

function jsonIn(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Whether a family has what a joint needs: a goal, a place, and a torque to switch. */
export function lacksForJoints(layout: Layout): string | null {
  for (const role of ["torque", "goalPosition", "position"] as const)
    if (!registerFor(layout, role))
      return `Its register table names no ${role === "torque" ? "torque" : role === "position" ? "position" : "goal position"}.`;
  if (!layout.operations.some(({ kind }) => kind === "read") || !layout.operations.some(({ kind }) => kind === "write"))
    return "It has no operations to read and to write.";
  return null;
}
