import { calmDegPerS, calmSpinPerS } from "@core/rig";
import type { UsedEasing } from "../easingsUsed";
import { leadMethods, leadState } from "../leads/pythonLeads";
import type { Machine } from "../machine";
import { routineMethods } from "./player";
import type { Spelling } from "./spelling";
import { wholeHermite, wholeMaths } from "./whole";

/** What the module does with its tables: the sums, the gate, the player and the class that is called. */
export function pythonRuntime(
  machine: Machine,
  used: readonly UsedEasing[],
  start: string,
  waits: readonly string[],
  spelling: Spelling,
): readonly string[] {
  const hasPoses = machine.poses.length > 0;
  const hasRoutines = machine.routines.length > 0;
  const needsHermite =
    used.some(({ formula }) => formula.some(({ is }) => is.includes("hermite("))) ||
    machine.routines.some(({ tracks }) => tracks.some(({ keys }) => keys.some(({ shape }) => shape === "smooth")));
  return [
    ...(needsHermite ? [spelling.isWhole ? wholeHermite : hermite] : []),
    spelling.isWhole ? wholeMaths : maths,
    gate(machine.leads.length > 0, spelling),
    rigClass(machine, start, spelling),
    ...(hasPoses ? [poseMethods(machine.leads.length > 0, spelling)] : []),
    ...(hasRoutines ? [routineMethods(waits, machine.leads.length > 0, spelling)] : []),
    ...(machine.leads.length > 0 ? [leadMethods(machine)] : []),
    tick(machine, spelling),
  ];
}

const hermite = `def hermite(y0, slope0, y1, slope1, width, share):
    # The cubic between two points with these slopes, at a share of the width between them.
    s2 = share * share
    s3 = s2 * share
    return y0 * (2 * s3 - 3 * s2 + 1) + slope0 * width * (s3 - 2 * s2 + share) + y1 * (3 * s2 - 2 * s3) + slope1 * width * (s3 - s2)

`;

const maths = `# ---- From targets to counts, as the bench does it. ----

def set_point_of(joint, target):
    # The pulse in us for a target.
    angle = joint.zero + joint.direction * target
    knots = joint.knots
    if not knots:
        return joint.slope * angle + joint.intercept
    at = 1
    while at < len(knots) - 1 and not knots[at][0] >= angle:
        at += 1
    a, b = knots[at - 1], knots[at]
    return a[1] + ((angle - a[0]) * (b[1] - a[1])) / (b[0] - a[0])


def target_at(joint, set_point):
    # The target at a pulse.
    knots = joint.knots
    if not knots:
        angle = (set_point - joint.intercept) / joint.slope
    else:
        is_rising = knots[-1][1] > knots[0][1]
        at = 1
        while at < len(knots) - 1 and not (knots[at][1] >= set_point if is_rising else knots[at][1] <= set_point):
            at += 1
        a, b = knots[at - 1], knots[at]
        angle = a[0] + ((set_point - a[1]) * (b[0] - a[0])) / (b[1] - a[1])
    return joint.direction * (angle - joint.zero)


def pulse_of(joint, count):
    return joint.offset + joint.gain * count


def floor_of(x):
    if x - x != 0:
        return x  # without end, or no number
    whole = int(x)
    return whole - 1 if whole > x else whole


def count_near(joint, set_point):
    # The count that the board would take for a pulse, kept within its range.
    exact = (set_point - joint.offset) / joint.gain
    count = floor_of(exact + 1e-9 if joint.truncates else exact)
    if not joint.truncates and exact - count >= 0.5:
        count += 1
    return max(joint.lowest, min(joint.highest, count))


def count_within(joint, set_point, low, high):
    # The same, inside a window; None where no count lies in it.
    upward = 1 if joint.gain > 0 else -1
    count = count_near(joint, set_point)
    if pulse_of(joint, count) > high:
        count -= upward
    elif pulse_of(joint, count) < low:
        count += upward
    made = pulse_of(joint, count)
    return count if low <= made <= high and joint.lowest <= count <= joint.highest else None


# ---- The gate: every target passes it, whoever asks. ----

class Live:
    def __init__(self, joint):
        a, b = set_point_of(joint, joint.low), set_point_of(joint, joint.high)
        self.joint = joint
        # What is left of the hard window by the travel, and the targets at the window's ends.
        self.inner_low = max(joint.window_low, min(a, b) - 1e-6)
        self.inner_high = min(joint.window_high, max(a, b) + 1e-6)
        self.at_window_low = target_at(joint, joint.window_low)
        self.at_window_high = target_at(joint, joint.window_high)
        # The fastest that it turns (0 where nobody knows), and how fast it is brought to a beginning.
        rated = joint.rated_per_s
        self.turns_per_s = joint.per_s if 0 < joint.per_s < rated else rated
        self.bring_per_s = ${calmSpinPerS} if rated == 0 else min(${calmDegPerS}, self.turns_per_s / 2)
        self.is_held = False
        self.wish = joint.home  # what is asked for
        self.target = joint.home  # what was let through
        self.count = None  # what the board was told last; None for no signal
        self.is_on = False  # a smart servo was told to hold
        self.blend = None  # while it goes over from one hand to the next: from where, since when, how long

    def count_for(self, target):
        # The count for a target within the travel, and the target: drawn in where the window ends before it.
        joint = self.joint
        set_point = set_point_of(joint, target)
        if set_point < joint.window_low:
            set_point, target = joint.window_low, self.at_window_low
        elif set_point > joint.window_high:
            set_point, target = joint.window_high, self.at_window_high
        is_inside = joint.low <= target <= joint.high
        low = self.inner_low if is_inside else joint.window_low
        high = self.inner_high if is_inside else joint.window_high
        return count_within(joint, set_point, low, high), target

    def most_of(self, dt_ms):
        # How far it may go in so long.
        return (self.joint.per_s * dt_ms) / 1000

`;

const blended = `    def blended(self, now_ms):
        # What it is really asked for while it goes over from one hand to the next.
        if self.blend is None or self.wish - self.wish != 0:
            return self.wish
        start, since_ms, ms = self.blend
        share = (now_ms - since_ms) / ms
        if not share < 1:
            self.blend = None
            return self.wish
        return start + (self.wish - start) * share * share * (3 - 2 * share)

`;

/** What every target passes, as the last methods of a joint's own class. */
const gate = (hasLeads: boolean, { isNone }: Spelling) => `    def pass_gate(self, dt_ms${hasLeads ? ", now_ms" : ""}):
        # Every target passes here, whoever asks.
        joint = self.joint
        target = ${hasLeads ? "self.blended(now_ms)" : "self.wish"}
${isNone ? `        if ${isNone}:\n            target = self.target  # not a number, or without end\n` : ""}        if target < joint.low:
            target = joint.low
        elif target > joint.high:
            target = joint.high
        if joint.per_s > 0:
            most = self.most_of(dt_ms)
            step = target - self.target
            if step > most:
                target = self.target + most
            elif step < -most:
                target = self.target - most
        count, target = self.count_for(target)
        if count is not None:
            self.target = target
        if count is None or (joint.is_limp_at_rest and self.target == 0):
            self.let_go()
        else:
            if count != self.count:
                set_pin(joint, count, target)
            self.count = count

${hasLeads ? blended : ""}    def let_go(self):
        if self.count is not None:
            let_go(self.joint)
        self.count = None
        self.is_on = False

`;

const rigClass = (machine: Machine, start: string, { isNone, isWhole }: Spelling) => {
  const hasPoses = machine.poses.length > 0;
  const hasRoutines = machine.routines.length > 0;
  const hasLeads = machine.leads.length > 0;
  const halts = hasPoses || hasRoutines;
  return `# ---- What is called. ----

class Rig:
    def __init__(self):
${start
  .trim()
  .split("\n")
  .filter((line) => line !== "")
  .map((line) => `        ${line}\n`)
  .join("")}        self.live = [Live(joint) for joint in joints]
        self.last_ms = None
${hasPoses ? "        self.glides = {}\n" : ""}${hasRoutines ? "        self.routine = None\n        self.mine = set()\n" : ""}${hasLeads ? leadState(machine) : ""}
    def stands(self, joint, target):
        # Where a joint stands, if you know it; else it is taken to stand at its home. Before it is held.
        live = self.live[joint]
        if not live.is_held${isNone ? ` and not (${isNone})` : ""}:
            live.wish = live.target = max(live.joint.low, min(live.joint.high, target))

    def hold(self):
        # Gives all joints their signal. A hobby servo goes to where it is taken to stand at once, at its own speed.
        for live in self.live:
            live.is_held = True

    def release(self):
        # Takes the signal off all channels. Ends what plays.
        self.stop()
        for joint, live in enumerate(self.live):
            live.is_held = False
            live.wish = live.target
            live.blend = None
${hasLeads ? "            self.led_by[joint] = None\n            self.has_hand[joint] = False\n" : ""}            live.count = None
            live.is_on = False
            let_go(live.joint)

${
  halts
    ? `    def halt(self):
        # Ends what plays; its joints stay where they are.
        for joint, live in enumerate(self.live):
            if ${[...(hasRoutines ? ["(self.routine and joint in self.mine)"] : []), ...(hasPoses ? ["joint in self.glides"] : [])].join(" or ")}:
                live.wish = live.target
                live.blend = None
${hasPoses ? "        self.glides = {}\n" : ""}${hasRoutines ? "        self.routine = None\n" : ""}
`
    : ""
}    def stop(self):
        # Ends what plays; joints stay where they are, held.
${halts ? "        self.halt()\n" : ""}        for joint, live in enumerate(self.live):
${hasLeads ? "            if self.led_by[joint] is not None:\n                continue\n" : ""}            live.wish = live.target
            live.blend = None

    def go(self, joint, target):
        # Asks a joint for a target; limits and speed are kept. What plays has it no more.
        live = self.live[joint]
        if not live.is_held:
            return
${hasLeads ? "        if self.is_played(joint) or self.led_by[joint] is not None:\n            self.change_hands(joint)\n        self.has_hand[joint] = True\n" : ""}${hasPoses ? "        self.glides.pop(joint, None)\n" : ""}${hasRoutines ? "        if self.routine:\n            self.mine.discard(joint)\n" : ""}        live.wish = target

    def is_moving(self):
        return ${[hasRoutines ? "self.routine is not None" : "", hasPoses ? "len(self.glides) > 0" : ""].filter(Boolean).join(" or ") || "False"}

    def count_of(self, at, target):
        # From a target to the number for the board, within limits and window; None where there is none.
        live = self.live[at]
        return live.count_for(max(live.joint.low, min(live.joint.high, target)))[0]

    def target_of(self, at, count):
        joint = self.live[at].joint
        return ${isWhole ? "target_at(joint, count)" : "target_at(joint, pulse_of(joint, count))"}
`;
};

const poseMethods = (hasLeads: boolean, spelling: Spelling) => `    def pose(self, pose, in_ms):
        # Brings the joints of a pose there, softly, in so many ms.
        if not any(target is not None and self.live[joint].is_held for joint, target in enumerate(poses[pose])):
            return
        self.halt()
        self.glide_ms, self.glided_ms = ${spelling.own("in_ms")}, 0
        for joint, target in enumerate(poses[pose]):
            if target is not None and self.live[joint].is_held:
                self.live[joint].wish = self.live[joint].target
${hasLeads ? "                self.change_hands(joint)\n" : ""}                self.glides[joint] = (self.live[joint].wish, target)
        self.is_brought = in_ms == 0
        if self.is_brought:
            # In no time at all: no faster than a beginning is come to.
            for joint, (start, end) in self.glides.items():
                self.glide_ms = max(self.glide_ms, lead_ms_of(self.live[joint], abs(end - start)))

    def glide(self, dt_ms):
        self.glided_ms += dt_ms
        is_over = self.glided_ms >= self.glide_ms
        if not is_over:
            left = share_of(self.glide_ms - self.glided_ms, self.glide_ms)
            share = ease(LEAST_JERK, FULL - left if self.is_brought else share_of(self.glided_ms, self.glide_ms))
        for joint, (start, end) in self.glides.items():
            self.live[joint].wish = end if is_over else start + part(end - start, share)
        if is_over:
            self.glides = {}
`;

const tick = ({ poses, routines, families, leads }: Machine, spelling: Spelling) => {
  const hasPoses = poses.length > 0;
  const hasRoutines = routines.length > 0;
  const hasPackets = families.length > 0;
  const hasLeads = leads.length > 0;
  return `    def tick(self, now_ms):
        # Call it again and again: it never waits.
        since_ms = 0 if self.last_ms is None else now_ms - self.last_ms
        if since_ms < 0:
            since_ms = FRAME_MS  # the clock has turned over
        if self.last_ms is not None and since_ms < FRAME_MS:
            return
        self.last_ms = now_ms
        dt_ms = ${spelling.own("min(since_ms, 50)")}  # however late: time moves on by no more than this
${hasLeads ? "        self.step_leads(dt_ms)\n" : ""}${hasPoses ? "        if self.glides:\n            self.glide(dt_ms)\n" : ""}${hasRoutines ? "        if self.routine:\n            self.phase(dt_ms)\n" : ""}${hasPackets ? "        before = [live.count for live in self.live]\n" : ""}        for live in self.live:
            if live.is_held:
                live.pass_gate(dt_ms${hasLeads ? ", now_ms" : ""})
${hasPackets ? "        if any(live.joint.is_wired and live.count is not None and live.count != count for live, count in zip(self.live, before)):\n            send_goals(self.live)\n" : ""}`;
};
