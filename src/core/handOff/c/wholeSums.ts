import { calmDegPerS, calmSpinPerS } from "@core/rig";
import type { UsedEasing } from "../easingsUsed";
import { graceOf65536 } from "../whole/scale";
import { wholeEasing } from "../whole/wholeEasing";
import { upper } from "./words";

/** Types and macros of a source in whole numbers. */
export const wholeTypes: readonly string[] = [
  "typedef int64_t Ms;    /* 65536 to a millisecond */",
  "typedef int32_t Share; /* of a way, or of a time */",
  "#define FULL ((Share)1 << 24)",
  "#define MS(x) ((Ms)SCALED(x, 65536.0))",
  "#define DEG_PER_S(x) ((int64_t)SCALED(x, 16777216.0))",
  "#define SPIN_PER_S(x) ((int64_t)SCALED(x, 4294967296.0))",
  "",
];

/** From targets to counts in whole numbers, with what follows from the joints' own. */
export const wholeMath: readonly string[] = [
  `/* x / 2^bits, rounded down for any sign. */
static int64_t down(int64_t x, uint8_t bits)
{
  const int64_t most = ((int64_t)1 << bits) - 1;
  return x >= 0 ? x >> bits : -((most - x) >> bits);
}

/* The count for a target before the board rounds it, in 65536ths. */
static int64_t exact_of(const Joint *joint, Target target)
{
  const Line *line = joint->lines, *last = line + joint->line_count - 1;
  while (line < last && line[1].from <= target) line++;
  return down(line->count + ((int64_t)target - line->from) * line->per_target, joint->shift);
}

/* The target at a count. */
static Target target_at(const Joint *joint, int32_t count)
{
  const int64_t exact = (int64_t)count * 65536 * ((int64_t)1 << joint->shift);
  const Line *line = joint->lines, *last = line + joint->line_count - 1;
  const bool is_rising = line->per_target > 0;
  while (line < last && (is_rising ? line[1].count <= exact : line[1].count >= exact)) line++;
  return (Target)(line->from + (exact - line->count) / line->per_target);
}

/* What follows from the numbers above; worked out once, at the start. */
typedef struct {
  int32_t first, last; /* what is left of the window's counts by the travel */
  int64_t turns_per_s; /* the fastest that it turns; 0 where nobody knows */
  int64_t bring_per_s; /* it is brought to a beginning no faster than this */
} Bounds;
static Bounds bounds[JOINT_COUNT];

/* So near to an edge between two counts counts as on it. */
#define GRACE ${graceOf65536}

static void find_bounds(uint8_t at)
{
  const Joint *joint = &joints[at];
  const int64_t a = exact_of(joint, joint->low), b = exact_of(joint, joint->high);
  const int64_t first = -down(GRACE - (a < b ? a : b), 16), last = down((a < b ? b : a) + GRACE, 16);
  bounds[at].first = first > joint->first ? (int32_t)first : joint->first;
  bounds[at].last = last < joint->last ? (int32_t)last : joint->last;
  const int64_t rated = joint->rated_per_s;
  const int64_t turns = joint->per_s > 0 && joint->per_s < rated ? joint->per_s : rated;
  bounds[at].turns_per_s = turns;
  bounds[at].bring_per_s = rated == 0 ? SPIN_PER_S(${calmSpinPerS}) : turns / 2 < DEG_PER_S(${calmDegPerS}) ? turns / 2 : DEG_PER_S(${calmDegPerS});
}
`,
];

/** What moves need of whole numbers: shares, parts, easings. */
export const wholeMoves = (used: readonly UsedEasing[]): readonly string[] => [
  `static Target part(Target way, Share share) { return (Target)down((int64_t)way * share + FULL / 2, 24); }
static Share share_of(Ms ms, Ms of_ms) { return (Share)((ms << 24) / of_ms); }

/* How long a joint takes to be brought over a way, softly: whole ms. Nothing for a way of less than 0.05. */
static Ms lead_ms_of(uint8_t joint, Target way)
{
  if (way <= (joints[joint].is_spin ? SPIN(0.05) : DEG(0.05))) return 0;
  const int64_t ms = ((int64_t)way * 1875 << 24) / bounds[joint].bring_per_s;
  return ((ms + 65536 - 66) >> 16) * 65536;
}

/* A move's curve, piece by piece: a polynomial of the share of the piece that is over, constant first. */
typedef struct { Share from, width; int32_t c[6]; } Piece;`,
  ...used.map(({ name, easing }) => {
    const rows = wholeEasing(easing).pieces.map(
      ({ from, width, coefficients }) => `  { ${from}, ${width}, { ${coefficients.join(", ")} } },`,
    );
    return [`static const Piece ${name}[] = {`, ...rows, "};"].join("\n");
  }),
  `static const Piece *const easings[] = { ${used.map(({ name }) => name).join(", ")} };

/* How much of the way a move has gone after a share of its time. */
static Share ease(uint8_t easing, Share share)
{
  const Piece *piece = easings[easing];
  while (piece->from + piece->width < FULL && piece->from + piece->width <= share) piece++;
  const int64_t over = ((int64_t)(share - piece->from) << 24) / piece->width;
  int64_t sum = piece->c[5];
  for (int power = 4; power >= 0; power--) sum = down(sum * over, 24) + piece->c[power];
  return (Share)sum;
}
`,
];

/** What a routine needs besides. */
export const wholeRoutineSums = (used: readonly UsedEasing[], isSmooth: boolean): readonly string[] => [
  `/* The fastest of each curve, in its mean speeds: ${used.map(({ name }) => name).join(", ")}; 65536 to one. */
static const int32_t peak_rates[] = { ${used.map(({ peakRate }) => Math.round(peakRate * 65536)).join(", ")} };

/* How far a joint gets in a move of so long, no faster than it turns. */
static Target reach_of(uint8_t joint, Ms ms, uint8_t easing)
{
  const int64_t turns = bounds[joint].turns_per_s < DEG_PER_S(3000) ? bounds[joint].turns_per_s : DEG_PER_S(3000);
  const int64_t time = ms < (Ms)600000 * 65536 ? ms : (Ms)600000 * 65536;
  const int64_t reach = (time * (turns >> 8) / 1000) / peak_rates[easing];
  return reach < INT32_MAX / 2 ? (Target)reach : INT32_MAX / 2;
}
`,
  ...(isSmooth
    ? [
        `/* The cubic between two points, from how much it would go from each by its slope there. */
static Target hermite(Target y0, int32_t leaves, Target y1, int32_t arrives, Share share)
{
  const int64_t s = share, s2 = down(s * s, 24), s3 = down(s2 * s, 24);
  const int64_t sum = (int64_t)y1 * (3 * s2 - 2 * s3) + (int64_t)y0 * (FULL - 3 * s2 + 2 * s3) + leaves * (s3 - 2 * s2 + s) + arrives * (s3 - s2);
  return (Target)down(sum + FULL / 2, 24);
}
`,
      ]
    : []),
];

/** What the gate needs in whole numbers. */
export const wholeGateSums = `/* The count for a target within the travel; the target is drawn in where the window ends before it. */
static int32_t count_for(uint8_t at, Target *target)
{
  const Joint *joint = &joints[at];
  if (*target < joint->window_from) *target = joint->window_from;
  else if (*target > joint->window_to) *target = joint->window_to;
  const bool is_inside = *target >= joint->low && *target <= joint->high;
  const int32_t first = is_inside ? bounds[at].first : joint->first, last = is_inside ? bounds[at].last : joint->last;
  const int32_t count = (int32_t)down(exact_of(joint, *target) + (joint->truncates ? 0 : 32768) + GRACE, 16);
  return first > last ? NO_COUNT : count < first ? first : count > last ? last : count;
}

/* How far it may go in so long; what is behind the point is kept for the next time. */
static Target most_of(uint8_t at, Ms dt_ms)
{
  const int64_t one = (int64_t)1000 << 24;
  const int64_t all = joints[at].per_s * dt_ms + live[at].rest;
  live[at].rest = all % one;
  return all / one < INT32_MAX / 4 ? (Target)(all / one) : INT32_MAX / 4;
}
`;

/** The easings by their numbers. */
export const easingNumbers = (used: readonly UsedEasing[]): readonly string[] => [
  `enum { ${used.map(({ name }) => upper(name)).join(", ")} };`,
  "",
];
