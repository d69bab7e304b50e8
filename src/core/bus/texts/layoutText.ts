import {
  type Layout,
  type Operation,
  operationKindSchema,
  type Piece,
  type Register,
  registerRoleSchema,
} from "@core/project";
import { ok, problem, type Result } from "@core/result";
import { hexByte } from "../packets/bytes";
import { numberIn, rowsOf } from "./tableRows";

/**
 * The tables of a manual as lines of text, a row each, columns apart by `|` or tabs: quick to type, and to paste. What is written here is read back as the same.
 */
export const operationColumns = "code | kind | name | carries | answers";
export const registerColumns =
  "address | name | size | access | kept | range | unit | scale | default | role | meaning";

export const writeOperations = (operations: readonly Operation[]): string =>
  operations
    .map(({ code, kind, label, request, reply, answers }) =>
      [
        `0x${hexByte(code)}`,
        kind,
        label,
        writePieces(request),
        reply ? `${answers === "when asked" ? "when asked: " : ""}${writePieces(reply)}` : "never",
      ].join(" | "),
    )
    .join("\n");

const writePieces = (pieces: readonly Piece[]): string =>
  pieces.length === 0 ? "nothing" : pieces.map(writePiece).join(", ");

function writePiece(piece: Piece): string {
  if (piece.kind === "address" || piece.kind === "count") return `${piece.kind} ${piece.size}`;
  if (piece.kind === "constant") return piece.bytes.map((byte) => `0x${hexByte(byte)}`).join(" ");
  return piece.kind === "data" ? "data" : piece.withData ? "id and data of each" : "id of each";
}

export function readOperations(text: string): Result<Operation[]> {
  const operations: Operation[] = [];
  for (const { cells, line } of rowsOf(text)) {
    const [code, kind, label, carries, answers] = cells;
    const told = operationKindSchema.safeParse(kind);
    const number = numberIn(code);
    if (number === null || number > 255)
      return problem(`Line ${line}: “${code}” is no code of a byte; write 0x11 or 17.`);
    if (!told.success) return problem(`Line ${line}: “${kind}” is none of ${operationKindSchema.options.join(", ")}.`);
    if (operations.some((other) => other.code === number))
      return problem(`Line ${line}: the code ${code} is used twice.`);
    const request = readPieces(carries ?? "");
    if (!request.ok) return problem(`Line ${line}: ${request.problem}`);
    const isOnRequest = answers?.startsWith("when asked") ?? false;
    const reply = answers === "never" ? null : readPieces((answers ?? "").replace(/^when asked:?/, "").trim());
    if (reply && !reply.ok) return problem(`Line ${line}: ${reply.problem}`);
    operations.push({
      code: number,
      kind: told.data,
      label: label || told.data,
      request: request.value,
      reply: reply?.value ?? null,
      answers: isOnRequest ? "when asked" : "always",
    });
  }
  return ok(operations);
}

function readPieces(text: string): Result<Piece[]> {
  const pieces: Piece[] = [];
  for (const word of text.split(",").map((one) => one.trim())) {
    if (word === "" || word === "nothing") continue;
    const sized = /^(address|count) ([12])$/.exec(word);
    if (sized) pieces.push({ kind: sized[1] as "address" | "count", size: Number(sized[2]) as 1 | 2 });
    else if (word === "data") pieces.push({ kind: "data" });
    else if (word === "id of each") pieces.push({ kind: "each", withData: false });
    else if (word === "id and data of each") pieces.push({ kind: "each", withData: true });
    else if (/^(0x[0-9a-f]{2} ?)+$/i.test(word)) pieces.push({ kind: "constant", bytes: word.split(" ").map(Number) });
    else
      return problem(
        `“${word}” is nothing that an operation carries; write address 1, count 1, data, id of each, id and data of each, or 0x05.`,
      );
  }
  return ok(pieces);
}

export const writeRegisters = (registers: readonly Register[]): string =>
  registers
    .map((one) =>
      [
        String(one.address),
        one.label,
        writeSize(one),
        one.access,
        `${one.memory}${one.needsTorqueOff ? ", torque off" : ""}`,
        one.choices.length > 0
          ? one.choices.map(({ value, label }) => `${value}=${label}`).join(", ")
          : `${one.low} to ${one.high}`,
        one.unit,
        one.offset === 0 ? String(one.scale) : `${one.scale} + ${one.offset}`,
        String(one.default),
        one.role ?? "",
        one.meaning,
      ].join(" | "),
    )
    .join("\n");

function writeSize({ size, sign }: Register): string {
  if (sign === "none") return String(size);
  if (sign === "twos") return `${size} signed`;
  return typeof sign === "number" ? `${size} sign ${sign}` : `${size} back ${sign.back} at ${sign.address}`;
}

export function readRegisters(text: string): Result<Register[]> {
  const registers: Register[] = [];
  for (const { cells, line } of rowsOf(text)) {
    const read = readRegister(cells);
    if (!read.ok) return problem(`Line ${line}: ${read.problem}`);
    const clash = registers.find(
      ({ address, size }) => address < read.value.address + read.value.size && read.value.address < address + size,
    );
    if (clash) return problem(`Line ${line}: ${read.value.label} lies over ${clash.label}.`);
    registers.push(read.value);
  }
  return ok(registers);
}

function readRegister(cells: readonly string[]): Result<Register> {
  const [
    address,
    label,
    size = "",
    access,
    kept = "",
    range = "",
    unit = "",
    scale = "",
    standard = "",
    role = "",
    meaning = "",
  ] = cells;
  const at = numberIn(address);
  if (at === null || at > 65_535) return problem(`“${address}” is no address.`);
  if (!label) return problem("a register has a name.");
  const sized = /^([124])(?: (signed)| sign (\d{1,2})| back (\d{1,3}) at (\d{1,5}))?$/.exec(size);
  if (!sized)
    return problem(
      `“${size}” is no size; write 1, 2, 4, 2 signed, 2 sign 15, or 2 back 1 at 21 (its direction is there).`,
    );
  if (access !== "read" && access !== "write") return problem(`“${access}” is neither read nor write.`);
  const memory = /^(stored|volatile)(, torque off)?$/.exec(kept);
  if (!memory) return problem(`“${kept}” is neither stored nor volatile, with or without “, torque off”.`);
  const values = readRange(range);
  if (!values.ok) return values;
  const worth = /^(-?[\d.e-]+)(?: \+ (-?[\d.]+))?$/i.exec(scale || "1");
  if (!worth || !Number.isFinite(Number(worth[1])) || Number(worth[1]) === 0)
    return problem(`“${scale}” is no scale; write 0.1, or 0.1 + 20.`);
  const told = role === "" ? null : registerRoleSchema.safeParse(role);
  if (told && !told.success) return problem(`“${role}” is none of ${registerRoleSchema.options.join(", ")}.`);
  return ok({
    address: at,
    label,
    size: Number(sized[1]) as 1 | 2 | 4,
    sign: sized[2]
      ? "twos"
      : sized[3]
        ? Number(sized[3])
        : sized[5]
          ? { address: Number(sized[5]), back: Number(sized[4]) }
          : "none",
    access,
    memory: memory[1] as "stored" | "volatile",
    needsTorqueOff: memory[2] !== undefined,
    ...values.value,
    unit,
    scale: Number(worth[1]),
    offset: Number(worth[2] ?? 0),
    default: Number(standard) || 0,
    role: told?.data ?? null,
    meaning,
  });
}

function readRange(text: string): Result<Pick<Register, "low" | "high" | "choices">> {
  const span = /^(-?\d+) to (-?\d+)$/.exec(text);
  if (span) return ok({ low: Number(span[1]), high: Number(span[2]), choices: [] });
  const choices: { value: number; label: string }[] = [];
  for (const word of text.split(",").map((one) => one.trim())) {
    const choice = /^(-?\d+)=(.+)$/.exec(word);
    const last = choices.at(-1);
    // A name may have a comma in it.
    if (!choice && last) last.label += `, ${word}`;
    else if (!choice) return problem(`“${text}” is no range; write 0 to 2000, or 0=off, 1=on.`);
    else choices.push({ value: Number(choice[1]), label: choice[2] as string });
  }
  const values = choices.map(({ value }) => value);
  return ok({ low: Math.min(...values), high: Math.max(...values), choices });
}

/** A family to begin with: a copy of another, under its own name. */
export const copyLayout = (layout: Layout, id: string, name: string): Layout => ({ ...layout, id, name });
