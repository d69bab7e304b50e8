import type { Shaper, ShaperKind, ShaperOf } from "@core/shapers";
import { commentOf } from "../describe";
import type { Machine } from "../machine";
import { num } from "../numbers";
import type { MachineLead } from "./machineLeads";

/** The call that makes a stage, for each kind of shaper. */
type Calls = { readonly [Kind in ShaperKind]: (shaper: ShaperOf<Kind>, source: (id: string) => string) => string };

const calls: Calls = {
  rangeMap: ({ from, to }) =>
    `range_map(${num(from.low)}, ${num(from.high)}, ${num(to.low)}, ${num(to.high - to.low)})`,
  limit: ({ how, range }) =>
    how === "clamp"
      ? `clamp(${num(range.low)}, ${num(range.high)})`
      : `wrap(${num(range.low)}, ${num(range.high - range.low)})`,
  deadband: ({ centre, halfWidth, reach }) =>
    `deadband(${num(centre)}, ${num(halfWidth)}, ${num(reach)}, ${num(reach - halfWidth)})`,
  curve: ({ range, shape }) => {
    const bend =
      shape.kind === "points"
        ? `through_points((${shape.points.map(({ x, y }) => `(${num(x)}, ${num(y)}),`).join(" ")}))`
        : shape.kind === "s"
          ? `s_shape(${num(1 - shape.amount)}, ${num(shape.amount)})`
          : `expo(${num(shape.amount)}, ${num(1 - Math.abs(shape.amount))}, ${num(Math.abs(shape.amount))})`;
    return `curve(${num(range.low)}, ${num(range.high)}, ${num(range.high - range.low)}, ${bend})`;
  },
  smooth: ({ lagMs, quickness, span }) =>
    `smooth(${num(1000 / (2 * Math.PI * lagMs))}, ${num(quickness)}, ${num(span)})`,
  change: ({ by }) => `change(${num(by)})`,
  rate: ({ perS }) => `rate(${num(perS)})`,
  detents: ({ stepsPerDetent }) => `detents(${stepsPerDetent})`,
  threshold: ({ on, off, dwellMs }) => `threshold(${num(on)}, ${num(off)}, ${num(dwellMs)})`,
  toggle: () => "toggle()",
  latch: ({ holdMs }) => `latch(${num(holdMs)})`,
  press: ({ which, longMs }) => `press(${which === "long" ? "True" : "False"}, ${num(longMs)})`,
  sample: ({ whenSourceId }, source) => `sample(rig, ${source(whenSourceId)})`,
  add: ({ by }) => `add(${num(by)})`,
  scale: ({ by }) => `scale(${num(by)})`,
  combine: ({ sourceId, to, how, share }, source) =>
    `combine(rig, ${source(sourceId)}, ${num(to.low)}, ${num(to.high - to.low)}, "${how}", ${num(share)})`,
  select: ({ switchId, sourceId, to }, source) =>
    `select(rig, ${source(switchId)}, ${source(sourceId)}, ${num(to.low)}, ${num(to.high - to.low)})`,
};

/** What makes the stages, by the name that is called; each gives a function of the value and the ms since the last. */
const makers: Readonly<Record<string, string>> = {
  range_map: `def range_map(from_low, from_high, low, span):
    return lambda x, dt_ms: low + within(x, from_low, from_high) * span`,
  clamp: `def clamp(low, high):
    return lambda x, dt_ms: min(max(x, low), high)`,
  wrap: `def wrap(low, span):
    def step(x, dt_ms):
        if x - x != 0:
            return x
        over = (x - low) - span * int((x - low) / span) + span
        return low + (over - span if over >= span else over)
    return step`,
  deadband: `def deadband(centre, half_width, reach, rest):
    def step(x, dt_ms):
        off = x - centre
        beyond = abs(off) - half_width
        return centre if beyond <= 0 else centre + (-1 if off < 0 else 1) * ((beyond * reach) / rest)
    return step`,
  curve: `def curve(low, high, span, bend):
    return lambda x, dt_ms: low + bend(within(x, low, high)) * span`,
  expo: `def expo(amount, rest, weight):
    def bend(share):
        u = 2 * share - 1
        bent = u * u * u if amount >= 0 else cube_root(u)
        return (rest * u + weight * bent + 1) / 2
    return bend


def cube_root(x):
    # Of what lies between -1 and 1, by halving what is left.
    low, high = 0, 1
    for _ in range(60):
        middle = (low + high) / 2
        if middle * middle * middle < abs(x):
            low = middle
        else:
            high = middle
    return -high if x < 0 else high`,
  s_shape: `def s_shape(rest, amount):
    return lambda share: rest * share + amount * share * share * (3 - 2 * share)`,
  through_points: `def through_points(points):
    def bend(share):
        at = 1
        while at < len(points) - 1 and points[at][0] < share:
            at += 1
        a, b = points[at - 1], points[at]
        return a[1] + within(share, a[0], b[0]) * (b[1] - a[1])
    return bend`,
  smooth: `def part_of(corner_hz, dt_ms):
    # How much of a difference a low-pass with this corner takes over in one step.
    return dt_ms / (dt_ms + 1000 / (${num(2 * Math.PI)} * corner_hz))


def smooth(rest_hz, quickness, span):
    state = [None, 0]  # where it is, and how fast

    def step(x, dt_ms):
        if state[0] is None:
            state[0] = x
        if dt_ms > 0:
            # The speed is smoothed as well, or noise alone would look like movement.
            state[1] += part_of(1, dt_ms) * (((x - state[0]) * 1000) / dt_ms - state[1])
            state[0] += part_of(rest_hz * (1 + (quickness * abs(state[1])) / span), dt_ms) * (x - state[0])
        return state[0]
    return step`,
  change: `def change(by):
    state = [None]

    def step(x, dt_ms):
        if state[0] is None or not abs(x - state[0]) < by:
            state[0] = x
        return state[0]
    return step`,
  rate: `def rate(per_s):
    state = [None]

    def step(x, dt_ms):
        most = (per_s * dt_ms) / 1000
        if state[0] is None or abs(x - state[0]) <= most:
            state[0] = x
        else:
            state[0] += -most if x < state[0] else most
        return state[0]
    return step`,
  detents: `def detents(steps):
    return lambda x, dt_ms: floor_of(x / steps)`,
  threshold: `def threshold(on, off, dwell_ms):
    state = [False, 0]  # is on, how long it has wanted to change

    def step(x, dt_ms):
        wants = ((x <= off if on > off else x >= off) if state[0] else (x >= on if on > off else x <= on))
        state[1] = state[1] + dt_ms if wants else 0
        if wants and state[1] >= dwell_ms:
            state[0] = not state[0]
            state[1] = 0
        return 1 if state[0] else 0
    return step`,
  toggle: `def toggle():
    state = [False, True]  # is on, was pressed

    def step(x, dt_ms):
        is_now = x >= 0.5
        if is_now and not state[1]:
            state[0] = not state[0]
        state[1] = is_now
        return 1 if state[0] else 0
    return step`,
  latch: `def latch(hold_ms):
    state = [0]

    def step(x, dt_ms):
        state[0] = hold_ms if x >= 0.5 else max(0, state[0] - dt_ms)
        return 1 if x >= 0.5 or state[0] > 0 else 0
    return step`,
  press: `def press(is_long, long_ms):
    state = [None]  # how long it has been held

    def step(x, dt_ms):
        was_ms = state[0]
        if x >= 0.5:
            state[0] = 0 if was_ms is None else was_ms + dt_ms
            return 1 if is_long and was_ms is not None and state[0] >= long_ms and was_ms < long_ms else 0
        state[0] = None
        return 1 if not is_long and was_ms is not None and was_ms < long_ms else 0
    return step`,
  sample: `def sample(rig, source):
    state = [None, False]  # what is kept, and whether it was on

    def step(x, dt_ms):
        is_now = rig.share_of_source(source) >= 0.5
        if (is_now and not state[1]) or state[0] is None:
            state[0] = x
        state[1] = is_now
        return state[0]
    return step`,
  add: `def add(by):
    return lambda x, dt_ms: x + by`,
  scale: `def scale(by):
    return lambda x, dt_ms: x * by`,
  combine: `def combine(rig, source, low, span, how, share):
    def step(x, dt_ms):
        stands = rig.share_of_source(source)
        if stands < 0:
            return 0 if how == "product" else x
        other = low + stands * span
        if how == "sum":
            return x + other
        if how == "product":
            return x * other
        return max(x, other) if how == "larger" else (1 - share) * x + share * other
    return step`,
  select: `def select(rig, switch, source, low, span):
    def step(x, dt_ms):
        stands = rig.share_of_source(source)
        return low + stands * span if rig.share_of_source(switch) >= 0.5 and stands >= 0 else x
    return step`,
};

const sourceName = ({ sources }: Machine, at: number) => `SOURCE_${(sources[at]?.name ?? "").toUpperCase()}`;

/** The stages that are used, and what holds one lead. */
export function pythonLeads(machine: Machine): readonly string[] {
  const chains = machine.leads.map((lead) => chainOf(machine, lead));
  const all = chains.join(" ");
  const names = Object.keys(makers).filter((name) => new RegExp(`\\b${name}\\(`).test(all));
  return [
    "# ---- Leads: from what is read to joints. ----",
    "",
    `source_ends = (${machine.sources.map(({ low, high }) => `(${num(low)}, ${num(high)}),`).join(" ")})`,
    `every_change_counts = (${machine.sources.map((one) => (one.everyChangeCounts ? "True," : "False,")).join(" ")})`,
    "",
    "",
    `def within(x, low, high):
    # Where a value lies in a range, 0 to 1; outside it stays at the ends.
    return min(max((x - low) / (high - low), 0), 1)


`,
    ...names.map((name) => `${makers[name]}\n\n\n`),
    `class Lead:
    # source: what it follows; heard: what counts as moving it; aims: joint, target at 0, and what is added at 1; act: what it does when it switches on
    def __init__(self, source, heard, is_steady, chain, aims=(), act=None):
        self.source, self.heard, self.is_steady = source, heard, is_steady
        self.chain, self.aims, self.act = chain, aims, act
        self.value = None
        self.was_on = True

    def step(self, x, dt_ms):
        if x is None:
            return
        for stage in self.chain:
            x = stage(x, dt_ms)
        if x - x == 0:  # else it is no number: the last one stands
            self.value = x


def leads_of(rig):
    return (
${machine.leads.map((lead, at) => leadText(machine, lead, chains[at] as string)).join("")}    )


`,
  ];
}

function chainOf(machine: Machine, { shapers }: MachineLead): string {
  const source = (id: string) =>
    sourceName(
      machine,
      machine.sources.findIndex((one) => one.id === id),
    );
  return shapers
    .map(
      (shaper) =>
        `${(calls[shaper.kind] as (shaper: Shaper, source: (id: string) => string) => string)(shaper, source)},`,
    )
    .join(" ");
}

function leadText(machine: Machine, lead: MachineLead, chain: string): string {
  const { label, source, others, isSteady, aims, action } = lead;
  const heard = [source, ...others.filter((other) => !machine.sources[other]?.isSteady)];
  const nameOf = (items: readonly { readonly name: string }[], at: number) => (items[at]?.name ?? "").toUpperCase();
  const act =
    action?.kind === "goToPose"
      ? `lambda: rig.pose(POSE_${nameOf(machine.poses, action.pose)}, ${num(action.moveMs)})`
      : action?.kind === "play"
        ? `lambda: rig.play(ROUTINE_${nameOf(machine.routines, action.routine)})`
        : action
          ? `rig.${action.kind}`
          : null;
  const rest = act
    ? `act=${act}`
    : `aims=(${aims.map(({ joint, atZero, atOne }) => `(JOINT_${nameOf(machine.joints, joint)}, ${num(atZero)}, ${num(atOne - atZero)}),`).join(" ")})`;
  return `        # ${commentOf(label)}
        Lead(${sourceName(machine, source)}, (${heard.map((one) => `${sourceName(machine, one)},`).join(" ")}), ${isSteady ? "True" : "False"}, (${chain}), ${rest}),
`;
}

/** What the rig does about leads, and about who has a joint. */
export const leadMethods = ({ joints, poses, routines }: Machine): string => {
  const played = [
    ...(routines.length > 0 ? ["(self.routine is not None and joint in self.mine)"] : []),
    ...(poses.length > 0 ? ["joint in self.glides"] : []),
  ].join(" or ");
  return `
    hand_over_ms = (${joints.map(({ blendMs }) => `${num(blendMs)},`).join(" ")})

    def feed(self, source, value):
        # What was read of a source. A knob as often as you like; who moved last has a joint.
        if value - value != 0:
            return
        if self.is_touched[source] and every_change_counts[source] and len(self.further[source]) < 8:
            self.further[source].append(value)
            return
        self.values[source] = value
        self.is_touched[source] = True

    def share_of_source(self, source):
        # Where a source stands in its range; -1 while it has given nothing.
        value = self.values[source]
        return -1 if value is None else within(value, source_ends[source][0], source_ends[source][1])

    def is_played(self, joint):
        return ${played || "False"}

    def change_hands(self, joint, least_ms=0):
        # Nobody has it any more: whoever takes it now, it goes over softly from where it stands.
        live = self.live[joint]
        self.led_by[joint] = None
        self.has_hand[joint] = False
        ms = max(self.hand_over_ms[joint], least_ms)
        live.blend = (live.target, self.last_ms, ms) if self.last_ms is not None and ms > 0 else None

    def follow(self, lead, joint, target, is_touched):
        # A lead wants a joint there. Who moves takes it; what goes on by itself takes only what nobody has.
        live = self.live[joint]
        if not live.is_held:
            return
        if self.led_by[joint] is not lead:
            is_free = self.led_by[joint] is None and not self.has_hand[joint] and not self.is_played(joint)
            if not (is_free if lead.is_steady else is_touched):
                return
            self.change_hands(joint, 400 if lead.is_steady else 0)
${routines.length > 0 ? "            if self.routine:\n                self.mine.discard(joint)\n" : ""}${poses.length > 0 ? "            self.glides.pop(joint, None)\n" : ""}            self.led_by[joint] = lead
        live.wish = target

    def step_leads(self, dt_ms):
        for lead in self.leads:
            lead.step(self.values[lead.source], dt_ms)
            is_on = lead.value is not None and lead.value >= 0.5
            was_on, lead.was_on = lead.was_on, is_on
            if lead.value is None:
                continue
            if lead.act:
                if is_on and not was_on:
                    lead.act()
                continue
            is_touched = any(self.is_touched[one] for one in lead.heard)
            for joint, at_zero, span in lead.aims:
                self.follow(lead, joint, at_zero + lead.value * span, is_touched)
        for source, further in enumerate(self.further):
            self.is_touched[source] = len(further) > 0
            if further:
                self.values[source] = further.pop(0)
`;
};

/** What the rig begins with. */
export const leadState = ({ sources, joints }: Machine): string => `        self.values = [None] * ${sources.length}
        self.is_touched = [False] * ${sources.length}
        self.further = [[] for _ in range(${sources.length})]  # what switches gave besides within one tick
        self.led_by = [None] * ${joints.length}  # the lead that has it
        self.has_hand = [False] * ${joints.length}  # it was asked for by itself
        self.leads = leads_of(self)
`;
