import { comment, upper } from "../c/words";
import type { Machine } from "../machine";
import { num, real } from "../numbers";
import { type Place, stageHelpers, stageOf } from "./cStages";
import type { MachineLead } from "./machineLeads";

/** Sources by number, and what feeds them. */
export const leadFace = ({ name, sources }: Machine): readonly string[] => [
  "enum {",
  ...sources.map(
    (source) =>
      `  SOURCE_${upper(source.name)}, /* ${comment(source.label)}: ${num(source.low)} to ${num(source.high)} */`,
  ),
  "  SOURCE_COUNT",
  "};",
  "/* What was read of a source. A knob as often as you like; who moved last has a joint. */",
  `void ${name}_feed(uint8_t source, double value);`,
  "",
];

/** The leads: their chains, and who has a joint. Stands behind the player. */
export function leadText(machine: Machine): readonly string[] {
  const { sources, leads } = machine;
  return [
    `/* ---- Leads: from what is read to joints. ---- */

typedef struct {
  double value;
  bool has_value, is_touched;
  double further[8]; /* what a switch gave besides within one tick */
  uint8_t further_count;
} Source;
static Source sources[SOURCE_COUNT];
static const bool every_change_counts[SOURCE_COUNT] = { ${sources.map((one) => one.everyChangeCounts).join(", ")} };
`,
    ...stageHelpers(machine),
    ...leads.map((lead, at) => chainText(machine, lead, at)),
    followText(machine),
    `static void step_leads(double dt_ms)
{
${leads.map((lead, at) => stepText(machine, lead, at)).join("")}  for (uint8_t at = 0; at < SOURCE_COUNT; at++) {
    Source *own = &sources[at];
    own->is_touched = own->further_count > 0;
    if (!own->is_touched) continue;
    own->value = own->further[0];
    own->further_count--;
    for (uint8_t i = 0; i < own->further_count; i++) own->further[i] = own->further[i + 1];
  }
}
`,
  ];
}

function chainText({ sources }: Machine, { label, source, shapers }: MachineLead, at: number): string {
  const places = shapers.map((_, stage): Place => {
    const field = (name: string) => `${name}_${stage}`;
    return {
      field,
      own: (name) => `own->${field(name)}`,
      source: (id) => `SOURCE_${upper(sources.find((one) => one.id === id)?.name ?? "")}`,
      points: `points_${at}_${stage}`,
    };
  });
  const made = shapers.map((shaper, stage) => stageOf(shaper, places[stage] as Place));
  const tables = shapers.flatMap((shaper, stage) =>
    shaper.kind === "curve" && shaper.shape.kind === "points"
      ? [
          `static const Drawn points_${at}_${stage}[] = { ${shaper.shape.points.map(({ x, y }) => `{ ${real(x)}, ${real(y)} }`).join(", ")} };\n`,
        ]
      : [],
  );
  const begins = [".was_on = true", ...made.flatMap((one) => one.begins ?? [])];
  const usesTime = made.some(({ lines }) => lines.some((line) => line.includes("dt_ms")));
  const body = made.flatMap(({ lines }) => {
    const isBlock = lines.some((line) => /^(?:const|double|bool) /.test(line));
    return isBlock ? ["{", ...lines.map((line) => `  ${line}`), "}"] : lines;
  });
  return `${tables.join("")}/* ${comment(label)} */
typedef struct {
  double value;
  bool has_value, was_on;
${made
  .flatMap((one) => one.state ?? [])
  .map((line) => `  ${line}\n`)
  .join("")}} Lead${at};
static Lead${at} lead_${at};
static const Lead${at} lead_${at}_begins = { ${begins.join(", ")} };

static void shape_${at}(double dt_ms)
{
  Lead${at} *own = &lead_${at};
${usesTime ? "" : "  (void)dt_ms;\n"}  if (!sources[SOURCE_${upper(sources[source]?.name ?? "")}].has_value) return;
  double x = sources[SOURCE_${upper(sources[source]?.name ?? "")}].value;
${body.map((line) => `  ${line}\n`).join("")}  if (!(x - x == 0)) return; /* not a number: the last one stands */
  own->value = x;
  own->has_value = true;
}
`;
}

const followText = ({ poses, routines, leads }: Machine) =>
  leads.some(({ aims }) => aims.length > 0)
    ? `/* A lead wants a joint there. Who moves takes it; what goes on by itself takes only what nobody has. */
static void follow(int16_t lead, uint8_t joint, double target, bool is_touched, bool is_steady)
{
  if (!live[joint].is_held) return;
  if (led_by[joint] != lead) {
    const bool is_free = led_by[joint] < 0 && !has_hand[joint]${routines.length > 0 ? " && !(phase != IDLE && is_mine[joint])" : ""}${poses.length > 0 ? " && !is_gliding[joint]" : ""};
    if (is_steady ? !is_free : !is_touched) return;
    change_hands(joint, is_steady ? 400 : 0);
${routines.length > 0 ? "    is_mine[joint] = false;\n" : ""}${poses.length > 0 ? "    is_gliding[joint] = false;\n" : ""}    led_by[joint] = lead;
  }
  live[joint].wish = target;
}
`
    : "";

function stepText(
  machine: Machine,
  { label, source, others, isSteady, aims, action }: MachineLead,
  at: number,
): string {
  const { sources, name, poses, routines } = machine;
  const sourceOf = (place: number) => `SOURCE_${upper(sources[place]?.name ?? "")}`;
  const touched = [source, ...others.filter((other) => !sources[other]?.isSteady)]
    .map((one) => `sources[${sourceOf(one)}].is_touched`)
    .join(" || ");
  const done =
    action?.kind === "goToPose"
      ? `${name}_pose(POSE_${upper(poses[action.pose]?.name ?? "")}, ${num(action.moveMs)});`
      : action?.kind === "play"
        ? `${name}_play(ROUTINE_${upper(routines[action.routine]?.name ?? "")});`
        : action
          ? `${name}_${action.kind}();`
          : "";
  const lines = action
    ? [
        `const bool is_on = lead_${at}.has_value && lead_${at}.value >= 0.5;`,
        `const bool was_on = lead_${at}.was_on;`,
        `lead_${at}.was_on = is_on;`,
        `if (is_on && !was_on) ${done}`,
      ]
    : [
        `if (lead_${at}.has_value) {`,
        ...(isSteady || aims.length === 0 ? [] : [`  const bool is_touched = ${touched};`]),
        ...aims.map(
          ({ joint, atZero, atOne }) =>
            `  follow(${at}, JOINT_${upper(machine.joints[joint]?.name ?? "")}, ${atZero === 0 && atOne === 1 ? `lead_${at}.value` : `${real(atZero)} + lead_${at}.value * ${real(atOne - atZero)}`}, ${isSteady ? "false, true" : "is_touched, false"});`,
        ),
        "}",
      ];
  return [
    `/* ${comment(label)} */`,
    `shape_${at}(dt_ms);`,
    ...(action ? ["{", ...lines.map((line) => `  ${line}`), "}"] : lines),
  ]
    .map((line) => `  ${line}\n`)
    .join("");
}

/** Who has a joint besides what plays, and how it goes over. Stands before the player. */
export const handsText = ({
  joints,
}: Machine): string => `/* ---- Who has a joint, and how it goes over from one to the next. ---- */

static int16_t led_by[JOINT_COUNT]; /* the lead that has it; -1 for none */
static bool has_hand[JOINT_COUNT];  /* it was asked for by itself */
static double blend_from[JOINT_COUNT], blend_ms[JOINT_COUNT];
static uint32_t blend_since_ms[JOINT_COUNT], last_ms;
static bool has_ticked;
static const double hand_over_ms[JOINT_COUNT] = { ${joints.map(({ blendMs }) => num(blendMs)).join(", ")} };

/* Nobody has it any more: whoever takes it now, it goes over softly from where it stands. */
static void change_hands(uint8_t joint, double least_ms)
{
  led_by[joint] = -1;
  has_hand[joint] = false;
  blend_from[joint] = live[joint].target;
  blend_since_ms[joint] = last_ms;
  blend_ms[joint] = !has_ticked ? 0 : hand_over_ms[joint] > least_ms ? hand_over_ms[joint] : least_ms;
}

static double blended(uint8_t joint)
{
  const double wish = live[joint].wish;
  if (blend_ms[joint] == 0 || !(wish - wish == 0)) return wish;
  const double share = (last_ms - blend_since_ms[joint]) / blend_ms[joint];
  if (!(share < 1)) {
    blend_ms[joint] = 0;
    return wish;
  }
  return blend_from[joint] + (wish - blend_from[joint]) * share * share * (3 - 2 * share);
}
`;
