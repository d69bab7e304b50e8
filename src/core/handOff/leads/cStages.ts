import type { Shaper, ShaperKind, ShaperOf } from "@core/shapers";
import type { Machine } from "../machine";
import { real } from "../numbers";

/** What one stage of a chain is in C: what it remembers, how that begins, and the lines that change `x`. */
export interface Stage {
  readonly state?: readonly string[];
  readonly begins?: readonly string[];
  readonly lines: readonly string[];
}

export interface Place {
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
  detents: ({ stepsPerDetent }) => ({
    lines: [`x /= ${stepsPerDetent};`, "if (x > -2147483647.0 && x < 2147483647.0) x = floor_of(x);"],
  }),
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

/** A shaper as a stage of C. */
export const stageOf = (shaper: Shaper, place: Place): Stage =>
  (stages[shaper.kind] as (shaper: Shaper, place: Place) => Stage)(shaper, place);

const used = ({ leads }: Machine, ...kinds: ShaperKind[]) =>
  leads.some(({ shapers }) => shapers.some(({ kind }) => kinds.includes(kind)));

/** The sums that several stages have, as far as they are used. */
export function stageHelpers(machine: Machine): readonly string[] {
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
