import { fieldSize, lengthBeyond, reachOf, reflectedBits } from "@core/bus";
import type { CrcRule, Field, Layout, Piece, Register } from "@core/project";
import { commentOf } from "../describe";
import type { Machine } from "../machine";
import { type MachineFamily, switchingOf } from "./families";

const hex = (value: number, digits = 2) => `0x${value.toString(16).toUpperCase().padStart(digits, "0")}`;
const upper = (name: string) => name.toUpperCase();
const comment = (text: string) => commentOf(text).replaceAll("*/", "* /").replaceAll("/*", "/ *");

/** What is declared in the header: a builder for any packet of each family. */
export const packetFace = ({ name, families }: Machine): readonly string[] =>
  families.flatMap((family) => [
    `/* A packet of ${comment(family.layout.name)}, with header, length and check, for any operation of it. Gives its length, 0 where the parameters are too many.\n * out needs room for twice the parameters and 40 bytes more. */`,
    `uint16_t ${name}_${family.name}_packet(uint8_t *out, uint8_t id, uint8_t operation, const uint8_t *parameters, uint16_t count);`,
  ]);

/** The packets that switch joints on and off, and what is to be remembered of them. */
export function packetTables({ joints, families }: Machine): readonly string[] {
  const arrays = families.flatMap((family) =>
    family.joints.flatMap((at) => {
      const joint = joints[at] as Machine["joints"][number];
      const { holds, letsGo } = switchingOf(family, joint.channel);
      const array = (what: string, bytes: Uint8Array | null) =>
        bytes
          ? [`static const uint8_t ${joint.name}_${what}[] = { ${Array.from(bytes, (byte) => hex(byte)).join(", ")} };`]
          : [];
      return [...array("holds", holds), ...array("lets_go", letsGo)];
    }),
  );
  const rows = families.flatMap((family) =>
    family.torque
      ? family.joints.map((at) => {
          const { name } = joints[at] as Machine["joints"][number];
          return `  [JOINT_${upper(name)}] = { ${name}_holds, ${name}_lets_go, sizeof ${name}_holds, sizeof ${name}_lets_go },`;
        })
      : [],
  );
  return [
    "/* ---- The packets of smart servos, byte by byte. ---- */",
    "",
    ...families.flatMap(({ comments, layout }) => [
      `/* ${comment(layout.name)}:`,
      ...comments.map((line) => ` *   ${comment(line)}`),
      " */",
    ]),
    ...arrays,
    "typedef struct { const uint8_t *holds, *lets_go; uint8_t holds_count, lets_go_count; } Switching;",
    "static const Switching switching[JOINT_COUNT] = {",
    ...(rows.length > 0 ? rows : ["  { NULL, NULL, 0, 0 },"]),
    "};",
    "static bool is_switched_on[JOINT_COUNT];",
    "static bool is_goal_new; /* some goal is another than what was sent last */",
    "",
  ];
}

/** What makes packets and sends the goals of a frame. */
export const packetText = (machine: Machine): readonly string[] => [
  "/* ---- Goals, sent by packets. ---- */",
  "",
  ...machine.families.flatMap((family) => familyText(machine, family)),
  `static void send_goals(void)
{
  if (!is_goal_new) return;
  is_goal_new = false;
  for (uint8_t board = 0; board < ${machine.boards.length}; board++) {
${machine.families.map(({ name }) => `    ${name}_goals(board);`).join("\n")}
  }
  /* The goal comes first: switched on, it is to stay where it is, or go there. */
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    if (!switching[at].holds || live[at].count == NO_COUNT || is_switched_on[at]) continue;
    is_switched_on[at] = true;
    send_bytes(joints[at].board, switching[at].holds, switching[at].holds_count);
  }
}
`,
];

function familyText(machine: Machine, family: MachineFamily): readonly string[] {
  const { name, layout } = family;
  const call = `${machine.name}_${name}_packet`;
  return [
    checkText(name, layout),
    builderText(call, name, layout, family.longestBytes),
    `/* A goal as its register ${comment(family.goal.label)} takes it. Gives how many bytes that are. */
static uint16_t ${name}_goal(uint8_t *out, int32_t value)
{
${valueText(layout, family.goal)}
}
`,
    `static const uint8_t ${name}_joints[] = { ${family.joints.map((at) => `JOINT_${upper(machine.joints[at]?.name ?? "")}`).join(", ")} };
`,
    family.group ? groupText(call, family) : singleText(call, family),
  ];
}

function checkText(name: string, { check: { rule } }: Layout): string {
  const step =
    rule.kind === "crc"
      ? crcStep(rule)
      : [`value = ${rule.kind === "sum" ? "(value + *bytes++) & 0xFFU" : "value ^ *bytes++"};`];
  return `static uint32_t ${name}_check(uint32_t value, const uint8_t *bytes, uint16_t count)
{
  while (count--) {
${step.map((line) => `    ${line}`).join("\n")}
  }
  return value;
}
`;
}

function crcStep({ bits, polynomial, reflectsIn }: CrcRule): readonly string[] {
  const digits = bits / 4;
  if (reflectsIn)
    return [
      "value ^= *bytes++;",
      `for (int bit = 0; bit < 8; bit++) value = value & 1U ? (value >> 1) ^ ${hex(reflectedBits(polynomial, bits), digits)}U : value >> 1;`,
    ];
  return [
    `value ^= (uint32_t)*bytes++ << ${bits - 8};`,
    `for (int bit = 0; bit < 8; bit++) value = (value & ${hex(2 ** (bits - 1), digits)}U ? (value << 1) ^ ${hex(polynomial, digits)}U : value << 1) & ${hex(2 ** bits - 1, digits)}U;`,
  ];
}

/** What a check starts with, and what is done at its end. */
function checkEnds({ check: { rule } }: Layout): { readonly start: string; readonly end: readonly string[] } {
  if (rule.kind !== "crc")
    return {
      start: "0",
      end:
        rule.ending === "plain"
          ? []
          : [rule.ending === "complement" ? "check = ~check & 0xFFU;" : "check = (0U - check) & 0xFFU;"],
    };
  const { bits, reflectsIn, reflectsOut, finalXor } = rule;
  const start = reflectsIn ? reflectedBits(rule.start, bits) : rule.start;
  return {
    start: `${hex(start, bits / 4)}U`,
    end: [
      ...(reflectsIn === reflectsOut
        ? []
        : [
            "uint32_t turned = 0;",
            `for (int bit = 0; bit < ${bits}; bit++) if (check >> bit & 1U) turned |= 1U << (${bits - 1} - bit);`,
            "check = turned;",
          ]),
      ...(finalXor === 0 ? [] : [`check ^= ${hex(finalXor, bits / 4)}U;`]),
    ],
  };
}

/** Lines that put a whole number of so many bytes at a place. */
const putLines = (at: string, value: string, size: number, order: Layout["byteOrder"]): readonly string[] =>
  Array.from({ length: size }, (_, byte) => {
    const shift = 8 * (order === "low first" ? byte : size - 1 - byte);
    return `${at.replace("#", String(byte))} = (uint8_t)(${value}${shift > 0 ? ` >> ${shift}` : ""});`;
  });

function builderText(call: string, name: string, layout: Layout, longest: number): string {
  const { start, end } = checkEnds(layout);
  const { stuffing, length } = layout;
  const checkSize = fieldSize(layout, "request", "check");
  const beyond = lengthBeyond(layout, "request");
  const linesOf = (field: Field): readonly string[] => {
    if (field === "header") return layout.header.map((byte) => `plain[at++] = ${hex(byte)};`);
    if (field === "id" || field === "operation") return [`plain[at++] = ${field};`];
    if (field === "error") return ["plain[at++] = 0;"];
    if (field === "length")
      return putLines("plain[at++]", `(uint16_t)(filled + ${beyond})`, length.size, layout.byteOrder);
    if (field === "parameters") return ["for (uint16_t i = 0; i < filled; i++) plain[at++] = fill[i];"];
    return ["check_at = at;", `at = (uint16_t)(at + ${checkSize});`];
  };
  const fields = layout.requestFields.flatMap((field) =>
    layout.check.covers.includes(field)
      ? ["from = at;", ...linesOf(field), `check = ${name}_check(check, plain + from, (uint16_t)(at - from));`]
      : linesOf(field),
  );
  const inserts =
    stuffing?.kind === "insert"
      ? `  /* After these bytes one more is put in, so that no header turns up. */
  static const uint8_t run[] = { ${stuffing.after.map((byte) => hex(byte)).join(", ")} };
  uint8_t fill[${longest}];
  uint16_t filled = 0, since = 0;
  for (uint16_t i = 0; i < count; i++) {
    fill[filled++] = parameters[i];
    since++;
    bool is_run = since >= sizeof run;
    for (uint16_t same = 0; is_run && same < sizeof run; same++) is_run = fill[filled - sizeof run + same] == run[same];
    if (is_run) {
      fill[filled++] = ${hex(stuffing.insert)};
      since = 0;
    }
  }
`
      : `  const uint8_t *fill = parameters;
  const uint16_t filled = count;
`;
  const marked =
    stuffing?.kind === "escape"
      ? [...new Set([stuffing.escape, ...stuffing.marks])].map((byte) => `plain[i] == ${hex(byte)}`).join(" || ")
      : "";
  const copied =
    stuffing?.kind === "escape"
      ? `  /* Bytes that mean something to the family are marked, the header's own aside. */
  uint16_t sent = 0;
  for (uint16_t i = 0; i < at; i++) {
    if (i >= ${layout.header.length} && (${marked})) {
      out[sent++] = ${hex(stuffing.escape)};
      out[sent++] = plain[i] ^ ${hex(stuffing.xor)};
    } else
      out[sent++] = plain[i];
  }
  return sent;`
      : `  for (uint16_t i = 0; i < at; i++) out[i] = plain[i];
  return at;`;
  return `uint16_t ${call}(uint8_t *out, uint8_t id, uint8_t operation, const uint8_t *parameters, uint16_t count)
{
  uint8_t plain[${longest}];
  uint16_t at = 0, from = 0, check_at = 0;
  uint32_t check = ${start};
${layout.requestFields.includes("id") ? "" : "  (void)id;\n"}${layout.requestFields.includes("operation") ? "" : "  (void)operation;\n"}  if (count > ${longest / 2 - 40}) return 0;
${inserts}${fields.map((line) => `  ${line}`).join("\n")}
  (void)from;
${end.map((line) => `  ${line}\n`).join("")}${putLines(
  "plain[check_at + #]",
  "check",
  checkSize,
  layout.check.byteOrder,
)
  .map((line) => `  ${line}\n`)
  .join("")}${copied}
}
`;
}

/** The bytes of a number over all of a register's reach, as lines. */
function valueText(layout: Layout, register: Register): string {
  const { sign, size } = register;
  if (typeof sign === "object") {
    const reach = reachOf(register);
    const own = register.address - reach.address;
    return [
      `  const uint32_t bare = value < 0 ? 0U - (uint32_t)value : (uint32_t)value;`,
      `  for (int i = 0; i < ${reach.size}; i++) out[i] = 0;`,
      ...putLines(`out[${own} + #]`, "bare", size, layout.byteOrder).map((line) => `  ${line}`),
      `  out[${sign.address - reach.address}] = (uint8_t)(value < 0 ? ${hex(sign.back)} : 0);`,
      `  return ${reach.size};`,
    ].join("\n");
  }
  const bare =
    typeof sign === "number"
      ? `value < 0 ? ${2 ** sign}U + (0U - (uint32_t)value) % ${2 ** sign}U : (uint32_t)value`
      : "(uint32_t)value";
  return [
    `  const uint32_t bare = ${bare};`,
    ...putLines("out[#]", "bare", size, layout.byteOrder).map((line) => `  ${line}`),
    `  return ${size};`,
  ].join("\n");
}

const clamped = ({ goal }: MachineFamily) =>
  `const int32_t goal = live[at].count < ${goal.low} ? ${goal.low} : live[at].count > ${goal.high} ? ${goal.high} : live[at].count;`;

/** Lines that put the pieces of a request, but for what is written, into the parameters. */
const pieceLines = (
  layout: Layout,
  pieces: readonly Piece[],
  register: Register,
  rest: readonly string[],
): readonly string[] => {
  const { address, size } = reachOf(register);
  return pieces.flatMap((piece) => {
    if (piece.kind === "address") return putLines("parameters[count++]", `${address}`, piece.size, layout.byteOrder);
    if (piece.kind === "count") return putLines("parameters[count++]", `${size}`, piece.size, layout.byteOrder);
    if (piece.kind === "constant") return piece.bytes.map((byte) => `parameters[count++] = ${hex(byte)};`);
    return rest;
  });
};

function groupText(call: string, family: MachineFamily): string {
  const { name, layout, goal, group, longestBytes } = family;
  const each = [
    `for (uint8_t i = 0; i < ${family.joints.length}; i++) {`,
    `  const uint8_t at = ${name}_joints[i];`,
    "  if (joints[at].board != board || live[at].count == NO_COUNT) continue;",
    `  ${clamped(family)}`,
    "  parameters[count++] = joints[at].channel;",
    `  count = (uint16_t)(count + ${name}_goal(parameters + count, goal));`,
    "  is_any = true;",
    "}",
  ];
  return `/* All goals of a frame in one packet, to everybody; nobody answers it. */
static void ${name}_goals(uint8_t board)
{
  uint8_t parameters[${longestBytes}], out[${longestBytes}];
  uint16_t count = 0;
  bool is_any = false;
${pieceLines(layout, group?.request ?? [], goal, each)
  .map((line) => `  ${line}`)
  .join("\n")}
  if (is_any) send_bytes(board, out, ${call}(out, ${layout.broadcastId}, ${hex(group?.code ?? 0)}, parameters, count));
}
`;
}

function singleText(call: string, family: MachineFamily): string {
  const { name, layout, goal, write, longestBytes } = family;
  const answered =
    write.reply !== null && write.answers === "always"
      ? "Each is answered: let the answer come before the next one is sent."
      : "";
  const data = [`count = (uint16_t)(count + ${name}_goal(parameters + count, goal));`];
  return `/* The goals of a frame, a packet each. ${answered} */
static void ${name}_goals(uint8_t board)
{
  for (uint8_t i = 0; i < ${family.joints.length}; i++) {
    const uint8_t at = ${name}_joints[i];
    if (joints[at].board != board || live[at].count == NO_COUNT) continue;
    ${clamped(family)}
    uint8_t parameters[${longestBytes}], out[${longestBytes}];
    uint16_t count = 0;
${pieceLines(layout, write.request, goal, data)
  .map((line) => `    ${line}`)
  .join("\n")}
    send_bytes(board, out, ${call}(out, joints[at].channel, ${hex(write.code)}, parameters, count));
  }
}
`;
}
