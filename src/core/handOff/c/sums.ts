import { calmDegPerS, calmSpinPerS } from "@core/rig";
import type { UsedEasing } from "../easingsUsed";
import { num } from "../numbers";
import { upper } from "./words";

export const realMath = (hasKnots: boolean, needsHermite: boolean): readonly string[] => [
  ...(hasKnots
    ? [
        `static double through(const Knot *knots, uint8_t count, double at)
{
  uint8_t next = 1;
  while (next < count - 1 && !(knots[next].at >= at)) next++;
  const Knot *a = &knots[next - 1], *b = &knots[next];
  return a->set_point + ((at - a->at) * (b->set_point - a->set_point)) / (b->at - a->at);
}

static double back_through(const Knot *knots, uint8_t count, double set_point)
{
  const bool is_rising = knots[count - 1].set_point > knots[0].set_point;
  uint8_t next = 1;
  while (next < count - 1 && !(is_rising ? knots[next].set_point >= set_point : knots[next].set_point <= set_point)) next++;
  const Knot *a = &knots[next - 1], *b = &knots[next];
  return a->at + ((set_point - a->set_point) * (b->at - a->at)) / (b->set_point - a->set_point);
}
`,
      ]
    : []),
  `/* The pulse in us for a target. */
static double set_point_of(const Joint *joint, double target)
{
  const double angle = joint->zero + joint->direction * target;${
    hasKnots ? "\n  if (joint->knots) return through(joint->knots, joint->knot_count, angle);" : ""
  }
  return joint->slope * angle + joint->intercept;
}

/* The target at a pulse. */
static double target_at(const Joint *joint, double set_point)
{
  double angle;
  ${
    hasKnots
      ? "if (joint->knots) angle = back_through(joint->knots, joint->knot_count, set_point);\n  else angle = (set_point - joint->intercept) / joint->slope;"
      : "angle = (set_point - joint->intercept) / joint->slope;"
  }
  return joint->direction * (angle - joint->zero);
}

/* What follows from the numbers above; worked out once, at the start. */
typedef struct {
  double at_window_low, at_window_high; /* the targets at the ends of the hard window */
  double inner_low, inner_high;         /* what is left of the window by the travel */
  double turns_per_s;                   /* the fastest that it turns; 0 where nobody knows */
  double bring_per_s;                   /* it is brought to a beginning no faster than this */
} Bounds;
static Bounds bounds[JOINT_COUNT];

static void find_bounds(uint8_t at)
{
  const Joint *joint = &joints[at];
  const double a = set_point_of(joint, joint->low), b = set_point_of(joint, joint->high);
  const double low = (a < b ? a : b) - 1e-6, high = (a < b ? b : a) + 1e-6;
  bounds[at].at_window_low = target_at(joint, joint->window_low);
  bounds[at].at_window_high = target_at(joint, joint->window_high);
  bounds[at].inner_low = low > joint->window_low ? low : joint->window_low;
  bounds[at].inner_high = high < joint->window_high ? high : joint->window_high;
  const double rated = joint->rated_per_s;
  const double turns = joint->per_s > 0 && joint->per_s < rated ? joint->per_s : rated;
  bounds[at].turns_per_s = turns;
  bounds[at].bring_per_s = rated == 0 ? ${calmSpinPerS} : turns / 2 < ${calmDegPerS} ? turns / 2 : ${calmDegPerS};
}

static double pulse_of(const Joint *joint, int32_t count) { return joint->offset + joint->gain * count; }

/* The largest whole number that is not above x. */
static int32_t floor_of(double x)
{
  if (!(x > -2147483647.0)) return -INT32_MAX;
  if (x >= 2147483647.0) return INT32_MAX;
  const int32_t whole = (int32_t)x;
  return whole > x ? whole - 1 : whole;
}

/* The count that the board would take for a pulse, kept within its range. */
static int32_t count_near(const Joint *joint, double set_point)
{
  const double exact = (set_point - joint->offset) / joint->gain;
  if (!(exact > joint->lowest_count)) return joint->lowest_count;
  if (exact >= joint->highest_count) return joint->highest_count;
  int32_t count = floor_of(joint->truncates ? exact + 1e-9 : exact);
  if (!joint->truncates && exact - count >= 0.5) count++;
  return count > joint->highest_count ? joint->highest_count : count;
}

/* The same, inside a window; NO_COUNT where none lies in it. */
static int32_t count_within(const Joint *joint, double set_point, double low, double high)
{
  const int32_t upward = joint->gain > 0 ? 1 : -1;
  int32_t count = count_near(joint, set_point);
  if (pulse_of(joint, count) > high) count -= upward;
  else if (pulse_of(joint, count) < low) count += upward;
  const double made = pulse_of(joint, count);
  const bool is_inside = made >= low && made <= high && count >= joint->lowest_count && count <= joint->highest_count;
  return is_inside ? count : NO_COUNT;
}
`,
  ...(needsHermite
    ? [
        `/* The cubic between two points with these slopes, at a share of the width between them. */
static double hermite(double y0, double slope0, double y1, double slope1, double width, double share)
{
  const double s2 = share * share;
  const double s3 = s2 * share;
  return y0 * (2 * s3 - 3 * s2 + 1) + slope0 * width * (s3 - 2 * s2 + share) + y1 * (3 * s2 - 2 * s3) + slope1 * width * (s3 - s2);
}
`,
      ]
    : []),
];

/** The types of a source in floating point. */
export const realTypes: readonly string[] = [
  "typedef double Ms;",
  "typedef double Share; /* of a way, or of a time */",
  "#define FULL 1",
  "",
];

/** What moves need: shares, parts, easings. */
export const realMoves = (used: readonly UsedEasing[]): readonly string[] => [
  `static Target part(Target way, Share share) { return way * share; }
static Share share_of(Ms ms, Ms of_ms) { return ms / of_ms; }

/* How long a joint takes to be brought over a way, softly: whole ms. Nothing for a way of less than 0.05. */
static Ms lead_ms_of(uint8_t joint, Target way)
{
  return way > 0.05 ? -floor_of(0.001 - (way * 1.875 * 1000) / bounds[joint].bring_per_s) : 0;
}
`,
  ...used.map(({ name, formula }) => {
    const body = formula.map(({ until, is }) =>
      until === null ? `  return ${is};` : `  if (s < ${num(until)}) return ${is};`,
    );
    return `static double ${name}(double s)\n{\n${body.join("\n")}\n}\n`;
  }),
  `/* How much of the way a move has gone after a share of its time. */
static Share ease(uint8_t easing, Share share)
{
  switch (easing) {
${used.map(({ name }) => `    case ${upper(name)}: return ${name}(share);`).join("\n")}
    default: return FULL;
  }
}
`,
];

/** What a routine needs besides. */
export const realRoutineSums = (used: readonly UsedEasing[]): readonly string[] => [
  `/* The fastest of each curve, in its mean speeds. */
static const double peak_rates[] = { ${used.map(({ peakRate }) => num(peakRate)).join(", ")} };

/* How far a joint gets in a move of so long, no faster than it turns. */
static Target reach_of(uint8_t joint, Ms ms, uint8_t easing)
{
  return (ms / 1000) * (bounds[joint].turns_per_s / peak_rates[easing]);
}
`,
];

/** What the gate needs in floating point. */
export const realGateSums = `/* The count for a target within the travel; the target is drawn in where the window ends before it. */
static int32_t count_for(uint8_t at, Target *target)
{
  const Joint *joint = &joints[at];
  const Bounds *own = &bounds[at];
  double set_point = set_point_of(joint, *target);
  if (set_point < joint->window_low) { set_point = joint->window_low; *target = own->at_window_low; }
  else if (set_point > joint->window_high) { set_point = joint->window_high; *target = own->at_window_high; }
  const bool is_inside = *target >= joint->low && *target <= joint->high;
  return count_within(joint, set_point, is_inside ? own->inner_low : joint->window_low,
                      is_inside ? own->inner_high : joint->window_high);
}

/* How far it may go in so long. */
static Target most_of(uint8_t at, Ms dt_ms) { return (joints[at].per_s * dt_ms) / 1000; }
`;
