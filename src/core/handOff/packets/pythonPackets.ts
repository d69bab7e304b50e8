import { fieldSize, lengthBeyond, reachOf, reflectedBits } from "@core/bus";
import type { CrcRule, Field, Layout, Piece, Register } from "@core/project";
import { commentOf } from "../describe";
import type { Machine } from "../machine";
import { type MachineFamily, switchingOf } from "./families";

const hex = (value: number, digits = 2) => `0x${value.toString(16).toUpperCase().padStart(digits, "0")}`;
const bytesText = (bytes: Iterable<number>) => `bytes((${Array.from(bytes, (byte) => `${hex(byte)},`).join(" ")}))`;

/** What makes packets, and the ones that switch joints on and off. */
export function pythonPackets(machine: Machine): readonly string[] {
  const rows = machine.families.flatMap((family) =>
    family.torque
      ? family.joints.map((at) => {
          const joint = machine.joints[at] as Machine["joints"][number];
          const { holds, letsGo } = switchingOf(family, joint.channel);
          return `    JOINT_${joint.name.toUpperCase()}: (${bytesText(holds ?? [])}, ${bytesText(letsGo ?? [])}),`;
        })
      : [],
  );
  return [
    "# ---- The packets of smart servos, byte by byte. ----",
    "",
    ...machine.families.flatMap(({ comments, layout }) => [
      `# ${commentOf(layout.name)}:`,
      ...comments.map((line) => `#   ${commentOf(line)}`),
    ]),
    "# What tells a joint to hold, and to let go.",
    "switching = {",
    ...rows,
    "}",
    "",
    "",
    ...machine.families.flatMap((family) => familyText(machine, family)),
    `def send_goals(lives):
    # The goals of a frame; then who is not yet switched on. So it is to stay where it is, or go there.
${machine.families.map(({ name }) => `    ${name}_goals(lives)`).join("\n")}
    for at, (holds, _) in switching.items():
        if lives[at].count is not None and not lives[at].is_on:
            lives[at].is_on = True
            send_bytes(joints[at].board, holds)


`,
  ];
}

function familyText(machine: Machine, family: MachineFamily): readonly string[] {
  const { name, layout, goal } = family;
  const joints = family.joints.map((at) => `JOINT_${(machine.joints[at]?.name ?? "").toUpperCase()},`).join(" ");
  return [checkText(name, layout), builderText(name, layout), valueText(name, layout, goal), goalsText(family, joints)];
}

function checkText(name: string, { check: { rule } }: Layout): string {
  const step =
    rule.kind === "crc" ? crcStep(rule) : [`value = ${rule.kind === "sum" ? "(value + byte) & 0xFF" : "value ^ byte"}`];
  return `def ${name}_check(value, data):
    for byte in data:
${step.map((line) => `        ${line}`).join("\n")}
    return value


`;
}

function crcStep({ bits, polynomial, reflectsIn }: CrcRule): readonly string[] {
  const digits = bits / 4;
  return reflectsIn
    ? [
        "value ^= byte",
        "for _ in range(8):",
        `    value = (value >> 1) ^ ${hex(reflectedBits(polynomial, bits), digits)} if value & 1 else value >> 1`,
      ]
    : [
        `value ^= byte << ${bits - 8}`,
        "for _ in range(8):",
        `    value = ((value << 1) ^ ${hex(polynomial, digits)} if value & ${hex(2 ** (bits - 1), digits)} else value << 1) & ${hex(2 ** bits - 1, digits)}`,
      ];
}

/** A whole number as the bytes of a tuple. */
const split = (value: string, size: number, order: Layout["byteOrder"]): string =>
  Array.from({ length: size }, (_, byte) => {
    const shift = 8 * (order === "low first" ? byte : size - 1 - byte);
    return `${shift > 0 ? `(${value} >> ${shift})` : value} & 0xFF,`;
  }).join(" ");

function builderText(name: string, layout: Layout): string {
  const { rule } = layout.check;
  const { stuffing, length } = layout;
  const checkSize = fieldSize(layout, "request", "check");
  const start = rule.kind === "crc" ? (rule.reflectsIn ? reflectedBits(rule.start, rule.bits) : rule.start) : 0;
  const beyond = lengthBeyond(layout, "request");
  const part: Readonly<Record<Field, string>> = {
    header: `(${layout.header.map((byte) => `${hex(byte)},`).join(" ")})`,
    id: "(id,)",
    operation: "(operation,)",
    error: "(0,)",
    parameters: "parameters",
    length: `(${split(`(len(parameters) + ${beyond})`, length.size, layout.byteOrder)})`,
    check: `(${"0, ".repeat(checkSize).trim()})`,
  };
  const fields = layout.requestFields.flatMap((field) => [
    ...(field === "check" ? ["check_at = len(plain)"] : []),
    `plain.extend(${part[field]})`,
    ...(layout.check.covers.includes(field) ? [`check = ${name}_check(check, ${part[field]})`] : []),
  ]);
  const ends =
    rule.kind === "crc"
      ? [
          ...(rule.reflectsIn === rule.reflectsOut
            ? []
            : [`check = sum(((check >> bit) & 1) << (${rule.bits - 1} - bit) for bit in range(${rule.bits}))`]),
          ...(rule.finalXor === 0 ? [] : [`check ^= ${hex(rule.finalXor, rule.bits / 4)}`]),
        ]
      : rule.ending === "plain"
        ? []
        : [rule.ending === "complement" ? "check = ~check & 0xFF" : "check = -check & 0xFF"];
  const inserts =
    stuffing?.kind === "insert"
      ? `    # After these bytes one more is put in, so that no header turns up.
    run = [${stuffing.after.map((byte) => hex(byte)).join(", ")}]
    fill, since = [], 0
    for byte in parameters:
        fill.append(byte)
        since += 1
        if since >= len(run) and fill[-len(run):] == run:
            fill.append(${hex(stuffing.insert)})
            since = 0
    parameters = fill
`
      : "";
  const escapes =
    stuffing?.kind === "escape"
      ? `    # Bytes that mean something to the family are marked, the header's own aside.
    sent = plain[:${layout.header.length}]
    for byte in plain[${layout.header.length}:]:
        sent.extend((${hex(stuffing.escape)}, byte ^ ${hex(stuffing.xor)}) if byte in (${[...new Set([stuffing.escape, ...stuffing.marks])].map((byte) => `${hex(byte)},`).join(" ")}) else (byte,))
    return bytes(sent)`
      : "    return bytes(plain)";
  return `def ${name}_packet(id, operation, parameters):
    # A packet of the family, with header, length and check, for any operation of it.
${inserts}    plain, check = [], ${hex(start)}
${fields.map((line) => `    ${line}`).join("\n")}
${ends.map((line) => `    ${line}\n`).join("")}    plain[check_at:check_at + ${checkSize}] = (${split("check", checkSize, layout.check.byteOrder)})
${escapes}


`;
}

/** The bytes of a goal over all of its register's reach. */
function valueText(name: string, layout: Layout, register: Register): string {
  const { sign, size } = register;
  const head = `def ${name}_goal(value):\n    # A goal as its register takes it.\n`;
  if (typeof sign === "object") {
    const reach = reachOf(register);
    const own = register.address - reach.address;
    return `${head}    data = [0] * ${reach.size}
    data[${own}:${own + size}] = (${split("abs(value)", size, layout.byteOrder)})
    data[${sign.address - reach.address}] = ${hex(sign.back)} if value < 0 else 0
    return data


`;
  }
  const bare =
    typeof sign === "number" ? `    value = ${2 ** sign} + -value % ${2 ** sign} if value < 0 else value\n` : "";
  return `${head}${bare}    return (${split("value", size, layout.byteOrder)})


`;
}

/** Lines that put the pieces of a request into the parameters. */
const pieceLines = (
  layout: Layout,
  pieces: readonly Piece[],
  register: Register,
  rest: readonly string[],
): readonly string[] => {
  const { address, size } = reachOf(register);
  return pieces.flatMap((piece) => {
    if (piece.kind === "address") return [`parameters.extend((${split(`${address}`, piece.size, layout.byteOrder)}))`];
    if (piece.kind === "count") return [`parameters.extend((${split(`${size}`, piece.size, layout.byteOrder)}))`];
    if (piece.kind === "constant")
      return [`parameters.extend((${piece.bytes.map((byte) => `${hex(byte)},`).join(" ")}))`];
    return rest;
  });
};

function goalsText({ name, layout, goal, group, write }: MachineFamily, joints: string): string {
  const clamped = `max(${goal.low}, min(${goal.high}, lives[at].count))`;
  const head = `def ${name}_goals(lives):
    held = [at for at in (${joints}) if lives[at].count is not None]
    for board in sorted(set(joints[at].board for at in held)):
`;
  if (group) {
    const each = [
      "for at in held:",
      "    if joints[at].board == board:",
      "        parameters.append(joints[at].channel)",
      `        parameters.extend(${name}_goal(${clamped}))`,
    ];
    return `${head}        # All goals of a frame in one packet, to everybody; nobody answers it.
        parameters = []
${pieceLines(layout, group.request, goal, each)
  .map((line) => `        ${line}`)
  .join("\n")}
        send_bytes(board, ${name}_packet(${layout.broadcastId}, ${hex(group.code)}, parameters))


`;
  }
  const answered =
    write.reply !== null && write.answers === "always" ? " Each is answered: let the answer come first." : "";
  return `${head}        # The goals of a frame, a packet each.${answered}
        for at in held:
            if joints[at].board != board:
                continue
            parameters = []
${pieceLines(layout, write.request, goal, [`parameters.extend(${name}_goal(${clamped}))`])
  .map((line) => `            ${line}`)
  .join("\n")}
            send_bytes(board, ${name}_packet(joints[at].channel, ${hex(write.code)}, parameters))


`;
}
