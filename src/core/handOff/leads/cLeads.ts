import type { Shaper, ShaperKind, ShaperOf } from "@core/shapers";
import { comment, upper } from "../c/words";
import type { Machine } from "../machine";
import { num, real } from "../numbers";
import type { MachineLead } from "./machineLeads";

/** What one stage of a chain is in C: what it remembers, how that begins, and the lines that change `x`. */
interface Stage {
  readonly state?: readonly string[];
  readonly begins?: readonly string[];
  readonly lines: readonly string[];
}

interface Place {
  /** What its state is called: `own->at_2`. */
  readonly own: (field: string) => string;
  /** The field itself. */
  readonly field: (field: string) => string;
  /** The name of a source by its id. */
  readonly source: (id: string) => string;
  /** The name of the table of drawn points. */
  readonly points: string;
}

type Stages = { readonly [Kind in ShaperKind]: (shaper: ShaperOf<Kind>, place: Place) => Stage };

/** Every kind of shaper in C, worked out as the bench does it. */
const stages: Stages = {
  rangeMap: ({ from, to }) => ({
    lines: [`x = ${real(to.low)} + within(x, ${real(from.low)}, ${real(from.high)}) * ${real(to.high - to.low)};`],
  }),
  limit: ({ how, range: { low, high } }) => ({
    lines:
      how === "clamp"
        ? [`x = x < ${real(low)} ? ${real(low)} : x > ${real(high)} ? ${real(high)} : x;`]
        : [`x = ${real(low)} + wrapped(x - ${real(low)}, ${real(high - low)});`],
  }),
  deadband: ({ centre, halfWidth, reach }) => ({
    lines: [
      `const double off = x - ${real(centre)};`,
      `const double beyond = (off < 0 ? -off : off) - ${real(halfWidth)};`,
      `x = beyond <= 0 ? ${real(centre)} : ${real(centre)} + (off < 0 ? -1 : 1) * ((beyond * ${real(reach)}) / ${real(reach - halfWidth)});`,
    ],
  }),
  curve: ({ range, shape }, { points }) => {
    const share = `within(x, ${real(range.low)}, ${real(range.high)})`;
    const bent = (is: string) => `x = ${real(range.low)} + ${is} * ${real(range.high - range.low)};`;
    if (shape.kind === "points")
      return { lines: [bent(`through_points(${points}, ${shape.points.length}, ${share})`)] };
    const weight = Math.abs(shape.amount);
    if (shape.kind === "s")
      return {
        lines: [
          `const double share = ${share};`,
          bent(`(${real(1 - shape.amount)} * share + ${real(shape.amount)} * share * share * (3 - 2 * share))`),
        ],
      };
    return {
      lines: [
        `const double u = 2 * ${share} - 1;`,
        bent(
          `((${real(1 - weight)} * u + ${real(weight)} * ${shape.amount >= 0 ? "(u * u * u)" : "cube_root(u)"} + 1) / 2)`,
        ),
      ],
    };
  },
  smooth: ({ lagMs, quickness, span }, { own, field }) => ({
    state: [`double ${field("at")}, ${field("speed")};`, `bool ${field("begun")};`],
    lines: [
      `if (!${own("begun")}) ${own("at")} = x;`,
      `${own("begun")} = true;`,
      "if (dt_ms > 0) {",
      "  /* The speed is smoothed as well, or noise alone would look like movement. */",
      `  ${own("speed")} += part_of(1, dt_ms) * (((x - ${own("at")}) * 1000) / dt_ms - ${own("speed")});`,
      `  const double speed = ${own("speed")} < 0 ? -${own("speed")} : ${own("speed")};`,
      `  ${own("at")} += part_of(${real(1000 / (2 * Math.PI * lagMs))} * (1 + (${real(quickness)} * speed) / ${real(span)}), dt_ms) * (x - ${own("at")});`,
      "}",
      `x = ${own("at")};`,
    ],
  }),
  change: ({ by }, { own, field }) => ({
    state: [`double ${field("passed")};`, `bool ${field("begun")};`],
    lines: [
      `const double far = x < ${own("passed")} ? ${own("passed")} - x : x - ${own("passed")};`,
      `if (!${own("begun")} || !(far < ${real(by)})) ${own("passed")} = x;`,
      `${own("begun")} = true;`,
      `x = ${own("passed")};`,
    ],
  }),
  rate: ({ perS }, { own, field }) => ({
    state: [`double ${field("at")};`, `bool ${field("begun")};`],
    lines: [
      `const double most = (${real(perS)} * dt_ms) / 1000;`,
      `const double way = x - ${own("at")};`,
      `if (!${own("begun")} || (way <= most && -way <= most)) ${own("at")} = x;`,
      `else ${own("at")} += way < 0 ? -most : most;`,
      `${own("begun")} = true;`,
      `x = ${own("at")};`,
    ],
  }),
  detents: ({ stepsPerDetent }) => ({ lines: [`x = floor_of(x / ${stepsPerDetent});`] }),
  threshold: ({ on, off, dwellMs }, { own, field }) => {
    const [up, down] = on > off ? [">=", "<="] : ["<=", ">="];
    return {
      state: [`double ${field("lasted_ms")};`, `bool ${field("is_on")};`],
      lines: [
        `const bool wants = ${own("is_on")} ? x ${down} ${real(off)} : x ${up} ${real(on)};`,
        `${own("lasted_ms")} = wants ? ${own("lasted_ms")} + dt_ms : 0;`,
        `if (wants && ${own("lasted_ms")} >= ${real(dwellMs)}) {`,
        `  ${own("is_on")} = !${own("is_on")};`,
        `  ${own("lasted_ms")} = 0;`,
        "}",
        `x = ${own("is_on")} ? 1 : 0;`,
      ],
    };
  },
  toggle: (_, { own, field }) => ({
    state: [`bool ${field("is_on")}, ${field("was")};`],
    begins: [`.${field("was")} = true`],
    lines: [
      "const bool is = x >= 0.5;",
      `if (is && !${own("was")}) ${own("is_on")} = !${own("is_on")};`,
      `${own("was")} = is;`,
      `x = ${own("is_on")} ? 1 : 0;`,
    ],
  }),
  latch: ({ holdMs }, { own, field }) => ({
    state: [`double ${field("left_ms")};`],
    lines: [
      `if (x >= 0.5) ${own("left_ms")} = ${real(holdMs)};`,
      `else ${own("left_ms")} = ${own("left_ms")} > dt_ms ? ${own("left_ms")} - dt_ms : 0;`,
      `x = x >= 0.5 || ${own("left_ms")} > 0 ? 1 : 0;`,
    ],
  }),
  press: ({ which, longMs }, { own, field }) => ({
    state: [`double ${field("held_ms")};`, `bool ${field("is_held")};`],
    lines: [
      `const double was_ms = ${own("held_ms")};`,
      `const bool was = ${own("is_held")};`,
      `${own("is_held")} = x >= 0.5;`,
      `${own("held_ms")} = ${own("is_held")} && was ? was_ms + dt_ms : 0;`,
      which === "long"
        ? `x = ${own("is_held")} && was && ${own("held_ms")} >= ${real(longMs)} && was_ms < ${real(longMs)} ? 1 : 0;`
        : `x = !${own("is_held")} && was && was_ms < ${real(longMs)} ? 1 : 0;`,
    ],
  }),
  sample: ({ whenSourceId }, { own, field, source }) => ({
    state: [`double ${field("kept")};`, `bool ${field("was")}, ${field("begun")};`],
    lines: [
      `const bool is = stands(${source(whenSourceId)}) >= 0.5;`,
      `if ((is && !${own("was")}) || !${own("begun")}) ${own("kept")} = x;`,
      `${own("was")} = is;`,
      `${own("begun")} = true;`,
      `x = ${own("kept")};`,
    ],
  }),
  add: ({ by }) => ({ lines: [`x = x + ${real(by)};`] }),
  scale: ({ by }) => ({ lines: [`x = x * ${real(by)};`] }),
  combine: ({ sourceId, to, how, share }, { source }) => {
    const joined = {
      sum: "x + other",
      product: "x * other",
      larger: "x > other ? x : other",
      mix: `${real(1 - share)} * x + ${real(share)} * other`,
    }[how];
    return {
      lines: [
        `const double share = stands(${source(sourceId)});`,
        `const double other = ${real(to.low)} + share * ${real(to.high - to.low)};`,
        `x = share < 0 ? ${how === "product" ? "0" : "x"} : ${joined};`,
      ],
    };
  },
  select: ({ switchId, sourceId, to }, { source }) => ({
    lines: [
      `const double share = stands(${source(sourceId)});`,
      `if (stands(${source(switchId)}) >= 0.5 && share >= 0) x = ${real(to.low)} + share * ${real(to.high - to.low)};`,
    ],
  }),
};

const stageOf = (shaper: Shaper, place: Place): Stage =>
  (stages[shaper.kind] as (shaper: Shaper, place: Place) => Stage)(shaper, place);

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

const used = ({ leads }: Machine, ...kinds: ShaperKind[]) =>
  leads.some(({ shapers }) => shapers.some(({ kind }) => kinds.includes(kind)));

/** The sums that several stages have. */
function helpers(machine: Machine): readonly string[] {
  const { leads } = machine;
  const curves = leads.flatMap(({ shapers }) => shapers.flatMap((one) => (one.kind === "curve" ? [one.shape] : [])));
  const hears = used(machine, "sample", "combine", "select");
  return [
    ...(hears || used(machine, "rangeMap", "curve")
      ? [
          `/* Where a value lies in a range, 0 to 1; outside it stays at the ends. */
static double within(double x, double low, double high)
{
  const double share = (x - low) / (high - low);
  return share < 0 ? 0 : share > 1 ? 1 : share;
}
`,
        ]
      : []),
    ...(leads.some(({ shapers }) => shapers.some((one) => one.kind === "limit" && one.how === "wrap"))
      ? [
          `static double wrapped(double x, double span)
{
  const double over = x - span * (x < 0 ? -floor_of(-x / span) : floor_of(x / span)) + span;
  return over >= span ? over - span : over;
}
`,
        ]
      : []),
    ...(used(machine, "smooth")
      ? [
          `/* How much of a difference a low-pass with this corner takes over in one step. */
static double part_of(double corner_hz, double dt_ms)
{
  return dt_ms / (dt_ms + 1000 / (${real(2 * Math.PI)} * corner_hz));
}
`,
        ]
      : []),
    ...(curves.some((shape) => shape.kind === "points")
      ? [
          `typedef struct { double x, y; } Drawn;
static double through_points(const Drawn *points, uint8_t count, double share)
{
  uint8_t at = 1;
  while (at < count - 1 && points[at].x < share) at++;
  const Drawn *a = &points[at - 1], *b = &points[at];
  return a->y + within(share, a->x, b->x) * (b->y - a->y);
}
`,
        ]
      : []),
    ...(curves.some((shape) => shape.kind === "expo" && shape.amount < 0)
      ? [
          `/* The cube root of what lies between -1 and 1, by halving what is left. */
static double cube_root(double x)
{
  const double size = x < 0 ? -x : x;
  double low = 0, high = 1;
  for (int halvings = 0; halvings < 60; halvings++) {
    const double middle = (low + high) / 2;
    if (middle * middle * middle < size) low = middle;
    else high = middle;
  }
  return x < 0 ? -high : high;
}
`,
        ]
      : []),
    ...(hears
      ? [
          `/* Where a source stands in its range; -1 while it has given nothing. */
static double stands(uint8_t source)
{
  static const double ends[SOURCE_COUNT][2] = { ${machine.sources.map(({ low, high }) => `{ ${real(low)}, ${real(high)} }`).join(", ")} };
  return sources[source].has_value ? within(sources[source].value, ends[source][0], ends[source][1]) : -1;
}
`,
        ]
      : []),
  ];
}

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
    ...helpers(machine),
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
