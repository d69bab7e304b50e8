import { calmDegPerS, calmSpinPerS } from "@core/rig";
import type { UsedEasing } from "./easingsUsed";
import type { Machine } from "./machine";

/** What the module does with its tables: the sums, the gate, the player and the class that is called. */
export function pythonRuntime(
  machine: Machine,
  used: readonly UsedEasing[],
  start: string,
  waits: readonly string[],
): readonly string[] {
  const hasPoses = machine.poses.length > 0;
  const hasRoutines = machine.routines.length > 0;
  const needsHermite =
    used.some(({ formula }) => formula.some(({ is }) => is.includes("hermite("))) ||
    machine.routines.some(({ tracks }) => tracks.some(({ keys }) => keys.some(({ shape }) => shape === "smooth")));
  return [
    ...(needsHermite || hasRoutines ? [hermite] : []),
    ...(hasPoses && !hasRoutines ? [leastJerk] : []),
    maths,
    rigClass(start, hasPoses, hasRoutines),
    ...(hasPoses ? [poseMethods] : []),
    ...(hasRoutines ? [routineMethods(waits)] : []),
    tick(hasPoses, hasRoutines),
  ];
}

const leastJerk = `def least_jerk(s):
    return s * s * s * (10 + s * (6 * s - 15))

`;

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

    def pass_gate(self, dt_ms):
        # Every target passes here, whoever asks.
        joint = self.joint
        target = self.wish
        if target - target != 0:
            target = self.target  # not a number, or without end
        if target < joint.low:
            target = joint.low
        elif target > joint.high:
            target = joint.high
        if joint.per_s > 0:
            most = (joint.per_s * dt_ms) / 1000
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

    def let_go(self):
        if self.count is not None:
            let_go(self.joint)
        self.count = None

`;

const rigClass = (start: string, hasPoses: boolean, hasRoutines: boolean) => `# ---- What is called. ----

class Rig:
    def __init__(self):
${start
  .trim()
  .split("\n")
  .filter((line) => line !== "")
  .map((line) => `        ${line}\n`)
  .join("")}        self.live = [Live(joint) for joint in joints]
        self.last_ms = None
${hasPoses ? "        self.glides = {}\n" : ""}${hasRoutines ? "        self.routine = None\n" : ""}
    def stands(self, joint, target):
        # Where a joint stands, if you know it; else it is taken to stand at its home. Before it is held.
        live = self.live[joint]
        if not live.is_held and target - target == 0:
            live.wish = live.target = max(live.joint.low, min(live.joint.high, target))

    def hold(self):
        # Gives all joints their signal. A hobby servo goes to where it is taken to stand at once, at its own speed.
        for live in self.live:
            live.is_held = True

    def release(self):
        # Takes the signal off all channels. Ends what plays.
        self.stop()
        for live in self.live:
            live.is_held = False
            live.count = None
            let_go(live.joint)

    def stop(self):
        # Ends what plays; joints stay where they are, held.
${hasPoses ? "        self.glides = {}\n" : ""}${hasRoutines ? "        self.routine = None\n" : ""}        for live in self.live:
            live.wish = live.target

    def go(self, joint, target):
        # Asks a joint for a target; limits and speed are kept. What plays has it no more.
        live = self.live[joint]
        if not live.is_held:
            return
${hasPoses ? "        self.glides.pop(joint, None)\n" : ""}${hasRoutines ? "        if self.routine:\n            self.mine.discard(joint)\n" : ""}        live.wish = target

    def is_moving(self):
        return ${[hasRoutines ? "self.routine is not None" : "", hasPoses ? "len(self.glides) > 0" : ""].filter(Boolean).join(" or ") || "False"}

    def count_of(self, at, target):
        # From a target to the number for the board, within limits and window; None where there is none.
        live = self.live[at]
        return live.count_for(max(live.joint.low, min(live.joint.high, target)))[0]

    def target_of(self, at, count):
        joint = self.live[at].joint
        return target_at(joint, pulse_of(joint, count))
`;

const poseMethods = `    def pose(self, pose, in_ms):
        # Brings the joints of a pose there, softly, in so many ms.
        self.stop()
        self.glide_ms, self.glided_ms = in_ms, 0
        for joint, target in enumerate(poses[pose]):
            if target is not None and self.live[joint].is_held:
                self.glides[joint] = (self.live[joint].wish, target)

    def glide(self, dt_ms):
        self.glided_ms += dt_ms
        is_over = self.glided_ms >= self.glide_ms
        for joint, (start, end) in self.glides.items():
            share = 1 if is_over else least_jerk(self.glided_ms / self.glide_ms)
            self.live[joint].wish = end if is_over else start + (end - start) * share
        if is_over:
            self.glides = {}
`;

const routineMethods = (waits: readonly string[]) => `    def is_met(self, wait):
        # Whether what a routine waits for has happened: yours to write, in a class of your own or here.
${waits.map((words, at) => `        #   ${at}: ${words.replace(/[\r\n]+/g, " ")}\n`).join("")}        return False

    def play(self, which):
        # Plays a routine, after its joints were brought to its beginning. False where nothing is held.
        self.stop()
        routine = routines[which]
        self.mine = set(track.joint for track in routine.tracks if self.live[track.joint].is_held)
        if not self.mine:
            return False
        self.routine = routine
        self.step_now = 0
        self.rounds_done = 0
        self.lay_steps()
        self.starts = [self.near_start(track) for track in routine.tracks]
        self.place(0)
        self.lead_in()
        return True

    def moves(self, number, joint):
        step = self.routine.steps[number]
        return step[0] == MOVE and poses[step[1]][joint] is not None

    def from_ms_of(self, number, joint):
        # When a joint begins to move in a step: joints may start one after the other.
        step = self.routine.steps[number]
        order = 0
        for before in range(joint):
            if self.moves(number, before):
                order += 1
        return self.begins_ms[number] + order * step[4] + (step[6].get(joint, 0) if step[6] else 0)

    def lay_steps(self):
        # Works out when each step begins, and how long the routine is.
        now_ms = 0
        self.begins_ms = []
        for number, (kind, _, move_ms, hold_ms, _, _, _) in enumerate(self.routine.steps):
            self.begins_ms.append(now_ms)
            if kind == WAIT:
                continue
            arrive_ms = now_ms + move_ms if kind == MOVE else now_ms
            for joint in range(len(joints)):
                if self.moves(number, joint):
                    arrive_ms = max(arrive_ms, self.from_ms_of(number, joint) + move_ms)
            now_ms = arrive_ms + hold_ms
        self.length_ms = max(now_ms, self.routine.least_ms)

    def move_before(self, number, joint):
        # The last step before this one that moves a joint; -1 for none.
        number -= 1
        while number >= 0 and not self.moves(number, joint):
            number -= 1
        return number

    def first_move(self, joint):
        number = 0
        while number < len(self.routine.steps) and not self.moves(number, joint):
            number += 1
        return number if number < len(self.routine.steps) else -1

    def rest_of(self, track, ms, start):
        # Where a joint rests while no move has said anything of it.
        keys = track.keys
        if not keys or track.adds:
            return start
        first = self.first_move(track.joint)
        is_first = True  # the keys come before any move
        if track.taken_up_at >= 0:
            ms = min(ms, self.begins_ms[track.taken_up_at])
            is_first = keys[0][0] <= self.begins_ms[track.taken_up_at]
        elif first >= 0:
            is_first = keys[0][0] <= self.from_ms_of(first, track.joint)
        if keys[-1][0] <= ms:
            return keys[-1][1]
        return keys[0][1] if is_first else start

    def base_at(self, track, ms, start):
        # The target as the moves alone have it.
        steps, begins_ms, joint = self.routine.steps, self.begins_ms, track.joint
        while self.step_now > 0 and begins_ms[self.step_now] > ms:
            self.step_now -= 1
        while self.step_now + 1 < len(steps) and begins_ms[self.step_now + 1] <= ms:
            self.step_now += 1
        number = self.move_before(min(self.step_now + 1, len(steps)), joint)
        while number >= 0 and self.from_ms_of(number, joint) > ms:
            number = self.move_before(number, joint)
        if number < 0:
            return self.rest_of(track, ms, start)
        step = steps[number]
        from_ms = self.from_ms_of(number, joint)
        to_ms = from_ms + step[2]
        to = poses[step[1]][joint]
        if ms >= to_ms:
            return to
        before = self.move_before(number, joint)
        begin = self.rest_of(track, from_ms, start) if before < 0 else poses[steps[before][1]][joint]
        return begin + (to - begin) * easings[step[5]]((ms - from_ms) / (to_ms - from_ms))

    def over(self, track, value, ms):
        # What a track's keys make of a value at a moment; outside them they change nothing.
        keys = track.keys
        if not keys or ms < keys[0][0] or ms > keys[-1][0]:
            return value
        low, high = 0, len(keys)
        while high - low > 1:
            middle = (low + high) // 2
            if keys[middle][0] <= ms:
                low = middle
            else:
                high = middle
        at_ms, own, slope, shape = keys[low]
        if low + 1 < len(keys) and shape != STAY:
            next_ms, next_target, next_slope, _ = keys[low + 1]
            width_ms = next_ms - at_ms
            share = (ms - at_ms) / width_ms
            if shape == LINE:
                own = own + (next_target - own) * share
            else:
                own = hermite(own, slope, next_target, next_slope, width_ms, share)
        return value + own if track.adds else own

    def value_of(self, at):
        track = self.routine.tracks[at]
        ms = min(self.at_ms, self.length_ms)
        return self.over(track, self.base_at(track, ms, self.starts[at]), ms)

    def near_start(self, track):
        # Where a joint is to begin: where it stands, if its first move can be made from there in its time.
        stands = self.live[track.joint].wish
        turns = self.live[track.joint].turns_per_s
        first = self.first_move(track.joint)
        if track.taken_up_at >= 0 or turns == 0 or first < 0:
            return stands
        from_ms = self.from_ms_of(first, track.joint)
        if track.keys and not track.adds and track.keys[0][0] <= from_ms:
            return stands
        step = self.routine.steps[first]
        reach = ((from_ms + step[2] - from_ms) / 1000) * (turns / peak_rates[step[5]])
        to = poses[step[1]][track.joint]
        return max(to - reach, min(to + reach, stands))

    def place(self, ms):
        # Stands at a moment; waits before it are behind.
        self.at_ms = ms
        self.is_returning = False
        self.next_wait = self.wait_from(0, ms)

    def wait_from(self, number, ms):
        steps = self.routine.steps
        while number < len(steps) and not (steps[number][0] == WAIT and self.begins_ms[number] >= ms):
            number += 1
        return number

    def lead_in(self):
        # Begins the way to where the routine is now; nothing to do where its joints are there.
        self.lead_from = []
        self.lead_in_ms = 0
        for at, track in enumerate(self.routine.tracks):
            stands = self.live[track.joint].wish
            self.lead_from.append(stands)
            way = abs(self.value_of(at) - stands)
            if track.joint in self.mine and way > 0.05:
                self.lead_in_ms = max(self.lead_in_ms, (way * 1.875 * 1000) / self.live[track.joint].bring_per_s)
        self.lead_left_ms = self.lead_in_ms
        self.phase = self.lead_on if self.lead_in_ms > 0 else self.play_on

    def lead_on(self, dt_ms):
        self.lead_left_ms = max(0, self.lead_left_ms - dt_ms)
        share = least_jerk(1 - self.lead_left_ms / self.lead_in_ms)
        for at, track in enumerate(self.routine.tracks):
            if track.joint in self.mine:
                to = self.value_of(at)
                begin = self.lead_from[at]
                self.live[track.joint].wish = to if share == 1 else begin + (to - begin) * share
        if self.lead_left_ms == 0:
            self.phase = self.play_on

    def write_wishes(self):
        for at, track in enumerate(self.routine.tracks):
            if track.joint in self.mine:
                self.live[track.joint].wish = self.value_of(at)

    def end_routine(self):
        if self.routine.releases:
            for joint in self.mine:
                self.live[joint].is_held = False
                self.live[joint].let_go()
        self.routine = None

    def end_round(self):
        self.write_wishes()
        self.rounds_done += 1
        if self.routine.rounds and self.rounds_done >= self.routine.rounds:
            self.end_routine()
            return
        end_ms = 0 if self.is_returning else self.length_ms
        self.starts = [self.base_at(track, end_ms, self.starts[at]) for at, track in enumerate(self.routine.tracks)]
        self.place(0)
        if self.length_ms > 0:
            self.lead_in()

    def run_on(self, dt_ms):
        # Runs to the next wait, the end of the way, or as far as time goes. Gives the time that is left.
        if self.is_returning:
            self.at_ms -= dt_ms
            if self.at_ms > 0:
                return 0
            over_ms = -self.at_ms
            self.at_ms = 0
            self.end_round()
            return over_ms
        to_ms = self.at_ms + dt_ms
        if self.next_wait < len(self.routine.steps) and self.begins_ms[self.next_wait] <= min(to_ms, self.length_ms):
            self.at_ms = self.begins_ms[self.next_wait]
            self.phase = self.wait_on
            self.waited_ms = 0
            return 0
        if to_ms < self.length_ms:
            self.at_ms = to_ms
            return 0
        self.at_ms = self.length_ms
        if self.routine.goes_there_and_back:
            self.is_returning = True
        else:
            self.end_round()
        return to_ms - self.length_ms

    def play_on(self, dt_ms):
        left_ms = dt_ms
        passed = 0
        while passed < 50 and self.routine and self.phase == self.play_on:
            left_ms = self.run_on(left_ms)
            passed += 1
            if left_ms <= 0:
                break
        if self.routine and self.phase != self.lead_on:
            self.write_wishes()

    def wait_on(self, dt_ms):
        _, wait, _, most_ms, _, ends, _ = self.routine.steps[self.next_wait]
        self.waited_ms += dt_ms
        self.write_wishes()
        is_met = self.is_met(wait)
        if not is_met and not (most_ms > 0 and self.waited_ms >= most_ms):
            return
        if not is_met and ends:
            self.end_routine()
            return
        self.next_wait = self.wait_from(self.next_wait + 1, self.at_ms)
        self.phase = self.play_on
`;

const tick = (hasPoses: boolean, hasRoutines: boolean) => `    def tick(self, now_ms):
        # Call it again and again: it never waits.
        since_ms = 0 if self.last_ms is None else now_ms - self.last_ms
        if since_ms < 0:
            since_ms = FRAME_MS  # the clock has turned over
        if self.last_ms is not None and since_ms < FRAME_MS:
            return
        self.last_ms = now_ms
        dt_ms = min(since_ms, 50)  # however late: time moves on by no more than this
${hasPoses ? "        if self.glides:\n            self.glide(dt_ms)\n" : ""}${hasRoutines ? "        if self.routine:\n            self.phase(dt_ms)\n" : ""}        for live in self.live:
            if live.is_held:
                live.pass_gate(dt_ms)
`;
