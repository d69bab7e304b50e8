import { calmDegPerS, calmSpinPerS } from "@core/rig";
import type { UsedEasing } from "../easingsUsed";
import { graceOf65536, scaled } from "../whole/scale";
import { wholeEasing } from "../whole/wholeEasing";

/** How whole numbers are made, at the top of the module. */
export const wholeScales = `# Everything is a whole number: 65536 to a degree and to a millisecond, 16777216 to a spin of 1. -45.5 degrees are deg(-455, 10).

def deg(n, over=1):
    return (n * 65536 * 2 + over) // (over * 2)


def spin(n, over=1):
    return (n * 16777216 * 2 + over) // (over * 2)


def deg_per_s(n, over=1):
    return deg(n * 256, over)


def spin_per_s(n, over=1):
    return spin(n * 256, over)


ms = deg
FULL = 16777216  # of a way, or of a time

`;

export const wholeJointClass = `class Joint:
    def __init__(self, board, channel, low, high, home, per_s, lines, shift, window, counts, truncates, per_count, pulse, period_us, rated_per_s,
                 is_spin, is_limp_at_rest, is_wired):
        self.board, self.channel = board, channel
        self.low, self.high, self.home = low, high, home
        self.per_s = per_s  # no faster than this; 0 for no limit
        # From target to count in straight pieces, from so many targets on: 65536ths of a count = (count + (target - start) * per_target) >> shift
        self.lines, self.shift = lines, shift
        self.window_from, self.window_to = window  # the hard window: no signal is ever outside
        self.first, self.last = counts  # and the counts in it
        self.truncates = truncates  # the board cuts off what is behind the point, instead of rounding
        self.per_count = per_count  # what its call takes for one count
        self.pulse_offset, self.pulse_gain = pulse  # pulse in us = (offset + gain * count) >> 32
        self.period_us = period_us  # 65536 to a us
        self.rated_per_s = rated_per_s  # how fast its servo can turn; 0 where nobody knows
        self.is_spin = is_spin
        self.is_limp_at_rest = is_limp_at_rest  # no signal at a spin of 0
        self.is_wired = is_wired  # a smart servo: its counts are ticks, sent by packets; its channel is its id

`;

/** The easings as polynomials, piece by piece, and what eases by them. */
export const wholeEasings = (used: readonly UsedEasing[]): readonly string[] => [
  "# How a move runs, piece by piece: from, width, and a polynomial of the share of the piece that is over, the constant first.",
  ...used.map(({ name, easing }) => {
    const rows = wholeEasing(easing).pieces.map(
      ({ from, width, coefficients }) => `(${from}, ${width}, (${coefficients.join(", ")})),`,
    );
    return `${name} = (${rows.join(" ")})`;
  }),
  `${used.map(({ name }) => name.toUpperCase()).join(", ")}${used.length === 1 ? "," : ""} = range(${used.length})`,
  `easings = (${used.map(({ name }) => `${name},`).join(" ")})`,
  `peak_rates = (${used.map(({ peakRate }) => `${scaled(peakRate, 16)},`).join(" ")})  # the fastest of each, in its mean speeds; 65536 to one`,
  `

def ease(easing, share):
    # How much of the way a move has gone after a share of its time.
    for start, width, numbers in easings[easing]:
        if share < start + width:
            break
    over = ((share - start) << 24) // width
    total = 0
    for number in reversed(numbers):
        total = ((total * over) >> 24) + number
    return total


def part(way, share):
    return (way * share + 8388608) >> 24


def share_of(ms, of_ms):
    return (ms << 24) // of_ms


def reach_of(live, ms, easing):
    # How far a joint gets in a move of so long, no faster than it turns.
    turns = min(live.turns_per_s, deg_per_s(3000))
    return min((min(ms, 600000 * 65536) * (turns >> 8) // 1000) // peak_rates[easing], 1 << 30)


def lead_ms_of(live, way):
    # How long a joint takes to be brought over a way, softly: whole ms. Nothing for a way of less than 0.05.
    if way <= (spin(5, 100) if live.joint.is_spin else deg(5, 100)):
        return 0
    return ((((way * 1875) << 24) // live.bring_per_s + 65536 - 66) >> 16) << 16

`,
];

export const wholeHermite = `def hermite(y0, leaves, y1, arrives, share):
    # The cubic between two points, from how much it would go from each by its slope there.
    s2 = (share * share) >> 24
    s3 = (s2 * share) >> 24
    total = y1 * (3 * s2 - 2 * s3) + y0 * (FULL - 3 * s2 + 2 * s3) + leaves * (s3 - 2 * s2 + share) + arrives * (s3 - s2)
    return (total + 8388608) >> 24

`;

export const wholeMaths = `# ---- From targets to counts, as the bench does it. ----

GRACE = ${graceOf65536}  # so near to an edge between two counts, in 65536ths, counts as on it


def exact_of(joint, target):
    # The count for a target before the board rounds it, in 65536ths.
    for line in joint.lines:
        if line[0] <= target or line is joint.lines[0]:
            start, count, per_target = line
    return (count + (target - start) * per_target) >> joint.shift


def target_at(joint, count):
    # The target at a count.
    exact = count << (16 + joint.shift)
    is_rising = joint.lines[0][2] > 0
    for line in joint.lines:
        if line is joint.lines[0] or (line[1] <= exact if is_rising else line[1] >= exact):
            start, begins, per_target = line
    return start + (exact - begins) // per_target


# ---- The gate: every target passes it, whoever asks. ----

class Live:
    def __init__(self, joint):
        self.joint = joint
        # What is left of the window's counts by the travel.
        a, b = exact_of(joint, joint.low), exact_of(joint, joint.high)
        self.first = max(joint.first, -((GRACE - min(a, b)) >> 16))
        self.last = min(joint.last, (max(a, b) + GRACE) >> 16)
        # The fastest that it turns (0 where nobody knows), and how fast it is brought to a beginning.
        rated = joint.rated_per_s
        self.turns_per_s = joint.per_s if 0 < joint.per_s < rated else rated
        self.bring_per_s = spin_per_s(${calmSpinPerS}) if rated == 0 else min(deg_per_s(${calmDegPerS}), self.turns_per_s // 2)
        self.is_held = False
        self.wish = joint.home  # what is asked for
        self.target = joint.home  # what was let through
        self.count = None  # what the board was told last; None for no signal
        self.is_on = False  # a smart servo was told to hold
        self.rest = 0  # of the last frame's way, behind the point

    def count_for(self, target):
        # The count for a target within the travel, and the target: drawn in where the window ends before it.
        joint = self.joint
        target = min(max(target, joint.window_from), joint.window_to)
        is_inside = joint.low <= target <= joint.high
        first = self.first if is_inside else joint.first
        last = self.last if is_inside else joint.last
        count = (exact_of(joint, target) + (0 if joint.truncates else 32768) + GRACE) >> 16
        return None if first > last else min(max(count, first), last), target

    def most_of(self, dt_ms):
        # How far it may go in so long; what is behind the point is kept for the next time.
        most, self.rest = divmod(self.joint.per_s * dt_ms + self.rest, 1000 << 24)
        return most

`;
