import { commentOf } from "../describe";
import type { Spelling } from "./spelling";

/** The methods of the rig that play a routine. */
export const routineMethods = (
  waits: readonly string[],
  hasLeads: boolean,
  spelling: Spelling,
) => `    def is_met(self, wait):
        # Whether what a routine waits for has happened: yours to write, in a class of your own or here.
${waits.map((words, at) => `        #   ${at}: ${commentOf(words)}\n`).join("")}        return False

    def play(self, which):
        # Plays a routine, after its joints were brought to its beginning. False where nothing is held.
        routine = routines[which]
        mine = set(track.joint for track in routine.tracks if self.live[track.joint].is_held)
        if not mine:
            return False
        self.halt()
        self.mine = mine
        for joint in self.mine:
            self.live[joint].wish = self.live[joint].target
${hasLeads ? "            self.change_hands(joint)\n" : ""}        self.routine = routine
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
        return begin + part(to - begin, ease(step[5], share_of(ms - from_ms, to_ms - from_ms)))

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
        ${spelling.isWhole ? "at_ms, own, leaves, arrives, shape" : "at_ms, own, slope, shape"} = keys[low]
        if low + 1 < len(keys) and shape != STAY:
            ${spelling.isWhole ? "next_ms, next_target = keys[low + 1][:2]" : "next_ms, next_target, next_slope, _ = keys[low + 1]"}
            width_ms = next_ms - at_ms
            share = share_of(ms - at_ms, width_ms)
            if shape == LINE:
                own = own + part(next_target - own, share)
            else:
                own = ${spelling.smooth}
        return value + own if track.adds else own

    def value_of(self, at):
        track = self.routine.tracks[at]
        ms = min(self.at_ms, self.length_ms)
        return self.over(track, self.base_at(track, ms, self.starts[at]), ms)

    def near_start(self, track):
        # Where a joint is to begin: where it stands, if its first move can be made from there in its time.
        stands = self.live[track.joint].wish
        first = self.first_move(track.joint)
        if track.taken_up_at >= 0 or self.live[track.joint].turns_per_s == 0 or first < 0:
            return stands
        from_ms = self.from_ms_of(first, track.joint)
        if track.keys and not track.adds and track.keys[0][0] <= from_ms:
            return stands
        step = self.routine.steps[first]
        reach = reach_of(self.live[track.joint], from_ms + step[2] - from_ms, step[5])
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
            if track.joint in self.mine:
                way = abs(self.value_of(at) - stands)
                self.lead_in_ms = max(self.lead_in_ms, lead_ms_of(self.live[track.joint], way))
        self.lead_left_ms = self.lead_in_ms
        self.phase = self.lead_on if self.lead_in_ms > 0 else self.play_on

    def lead_on(self, dt_ms):
        self.lead_left_ms = max(0, self.lead_left_ms - dt_ms)
        share = ease(LEAST_JERK, FULL - share_of(self.lead_left_ms, self.lead_in_ms))
        for at, track in enumerate(self.routine.tracks):
            if track.joint in self.mine:
                to = self.value_of(at)
                begin = self.lead_from[at]
                self.live[track.joint].wish = to if share == FULL else begin + part(to - begin, share)
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
