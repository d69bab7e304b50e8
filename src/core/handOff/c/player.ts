import type { Machine } from "../machine";
import type { Spelling } from "./spelling";

const hasWaits = ({ routines }: Machine) => routines.some(({ steps }) => steps.some(({ kind }) => kind === "wait"));

/** What brings joints somewhere: to a pose, to the beginning of a routine, and along it. */
export function playerText(
  machine: Machine,
  spelling: Spelling,
  hasKeys: boolean,
  isSmooth: boolean,
): readonly string[] {
  const hasRoutines = machine.routines.length > 0;
  const mostSteps = Math.max(1, ...machine.routines.map(({ steps }) => steps.length));
  const mostTracks = Math.max(1, ...machine.routines.map(({ tracks }) => tracks.length));
  const lead = `/* ---- What moves by itself. ---- */

static Target way_of(Target a, Target b) { return a > b ? a - b : b - a; }
`;
  const gliding = `/* On the way to a pose; brought there, where nobody said in what time. */
static bool is_brought;
static bool is_gliding[JOINT_COUNT];
static Target glide_from[JOINT_COUNT], glide_to[JOINT_COUNT];
static Ms glide_ms, glided_ms;

static void glide(Ms dt_ms)
{
  bool is_any = false;
  glided_ms += dt_ms;
  Share share = FULL;
  if (glided_ms < glide_ms) share = is_brought ? FULL - share_of(glide_ms - glided_ms, glide_ms) : share_of(glided_ms, glide_ms);
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    if (!is_gliding[at]) continue;
    const Target from = glide_from[at], to = glide_to[at];
    live[at].wish = glided_ms >= glide_ms ? to : from + part(to - from, ease(LEAST_JERK, share));
    is_any = true;
  }
  if (!is_any || glided_ms >= glide_ms)
    for (uint8_t at = 0; at < JOINT_COUNT; at++) is_gliding[at] = false;
}
`;
  return [
    lead,
    ...(machine.poses.length > 0 ? [gliding] : []),
    ...(hasRoutines ? [routineText(machine, spelling, mostSteps, mostTracks, hasKeys, isSmooth)] : []),
  ];
}

const keysText = (
  isSmooth: boolean,
  smooth: string,
) => `/* What a track's keys make of a value at a moment; outside them they change nothing. */
static Target over(const Track *track, Target value, Ms ms)
{
  const Key *keys = track->keys;
  const uint16_t last = (uint16_t)(track->key_count - 1);
  if (!track->key_count || ms < keys[0].at_ms || ms > keys[last].at_ms) return value;
  uint16_t low = 0, high = track->key_count;
  while (high - low > 1) {
    const uint16_t middle = (uint16_t)((low + high) / 2);
    if (keys[middle].at_ms <= ms) low = middle;
    else high = middle;
  }
  const Key *key = &keys[low];
  Target own = key->target;
  if (low != last && key->shape != STAY) {
    const Key *next = key + 1;
    const Ms width_ms = next->at_ms - key->at_ms;
    const Share share = share_of(ms - key->at_ms, width_ms);
    ${
      isSmooth
        ? `own = key->shape == LINE ? key->target + part(next->target - key->target, share)
                            : ${smooth};`
        : "own = key->target + part(next->target - key->target, share);"
    }
  }
  return track->adds ? value + own : own;
}
`;

const routineText = (
  machine: Machine,
  spelling: Spelling,
  mostSteps: number,
  mostTracks: number,
  hasKeys: boolean,
  isSmooth: boolean,
) => {
  const isMet = hasWaits(machine) ? `${machine.name}_is_met((uint8_t)step->pose)` : "true";
  return `typedef enum { IDLE, LEADING_IN, PLAYING, WAITING } Phase;
static Phase phase;
static const Routine *routine;
static Ms begins_ms[${mostSteps + 1}]; /* when each step of what plays begins */
static Ms length_ms, at_ms;
static bool is_returning;
static uint32_t rounds_done;
static uint16_t step_now, next_wait;
static bool is_mine[JOINT_COUNT];       /* what plays has the joint */
static Target starts[${mostTracks}];             /* where each track's joint stands when the round begins */
static Target lead_from[${mostTracks}];
static Ms lead_in_ms, lead_left_ms, waited_ms;

static Target target_in(const Step *step, uint8_t joint) { return poses[step->pose][joint]; }

static bool moves(const Step *step, uint8_t joint) { return step->kind == MOVE && target_in(step, joint) != KEEP; }

/* When a joint begins to move in a step: joints may start one after the other. */
static Ms from_ms_of(uint16_t number, uint8_t joint)
{
  const Step *step = &routine->steps[number];
  int order = 0;
  for (uint8_t before = 0; before < joint; before++) order += moves(step, before);
  return begins_ms[number] + order * step->stagger_ms + (step->delays ? step->delays[joint] : 0);
}

/* Works out when each step begins, and how long the routine is. */
static void lay_steps(void)
{
  Ms now_ms = 0;
  for (uint16_t number = 0; number < routine->step_count; number++) {
    const Step *step = &routine->steps[number];
    begins_ms[number] = now_ms;
    if (step->kind == WAIT) continue;
    Ms arrive_ms = step->kind == MOVE ? now_ms + step->move_ms : now_ms;
    for (uint8_t joint = 0; joint < JOINT_COUNT; joint++) {
      if (!moves(step, joint)) continue;
      const Ms to_ms = from_ms_of(number, joint) + step->move_ms;
      if (to_ms > arrive_ms) arrive_ms = to_ms;
    }
    now_ms = arrive_ms + step->hold_ms;
  }
  begins_ms[routine->step_count] = now_ms;
  length_ms = now_ms > routine->least_ms ? now_ms : routine->least_ms;
}

/* The last step before \`number\` that moves a joint; -1 for none. */
static int32_t move_before(int32_t number, uint8_t joint)
{
  while (--number >= 0 && !moves(&routine->steps[number], joint)) {}
  return number;
}

/* Where a joint rests while no move has said anything of it. */
static Target rest_of(const Track *track, Ms ms, Target start)
{
${
  hasKeys
    ? `  if (!track->key_count || track->adds) return start;
  const Key *keys = track->keys;
  uint16_t number = 0;
  while (number < routine->step_count && !moves(&routine->steps[number], track->joint)) number++;
  bool is_first = true; /* the keys come before any move */
  if (track->taken_up_at >= 0) {
    const Ms begins = begins_ms[track->taken_up_at];
    if (ms > begins) ms = begins;
    is_first = keys[0].at_ms <= begins;
  } else if (number < routine->step_count)
    is_first = keys[0].at_ms <= from_ms_of(number, track->joint);
  if (keys[track->key_count - 1].at_ms <= ms) return keys[track->key_count - 1].target;
  return is_first ? keys[0].target : start;`
    : `  (void)track;
  (void)ms;
  return start;`
}
}

/* The target as the moves alone have it. */
static Target base_at(const Track *track, Ms ms, Target start)
{
  while (step_now > 0 && begins_ms[step_now] > ms) step_now--;
  while (step_now + 1 < routine->step_count && begins_ms[step_now + 1] <= ms) step_now++;
  int32_t number = move_before(routine->step_count ? step_now + 1 : 0, track->joint);
  while (number >= 0 && from_ms_of((uint16_t)number, track->joint) > ms) number = move_before(number, track->joint);
  if (number < 0) return rest_of(track, ms, start);
  const Step *step = &routine->steps[number];
  const Ms from_ms = from_ms_of((uint16_t)number, track->joint);
  const Ms to_ms = from_ms + step->move_ms;
  const Target to = target_in(step, track->joint);
  if (ms >= to_ms) return to;
  const int32_t before = move_before(number, track->joint);
  const Target from = before < 0 ? rest_of(track, from_ms, start) : target_in(&routine->steps[before], track->joint);
  return from + part(to - from, ease(step->easing, share_of(ms - from_ms, to_ms - from_ms)));
}
${hasKeys ? `\n${keysText(isSmooth, spelling.smooth)}` : ""}
static Target value_of(uint8_t place)
{
  const Track *track = &routine->tracks[place];
  const Ms ms = at_ms < length_ms ? at_ms : length_ms;
  ${hasKeys ? "return over(track, base_at(track, ms, starts[place]), ms);" : "return base_at(track, ms, starts[place]);"}
}

/* Where a joint is to begin: where it stands, if its first move can be made from there in its time. */
static Target near_start(const Track *track)
{
  const Target stands = live[track->joint].wish;
  if (track->taken_up_at >= 0 || bounds[track->joint].turns_per_s == 0) return stands;
  for (uint16_t number = 0; number < routine->step_count; number++) {
    const Step *step = &routine->steps[number];
    if (!moves(step, track->joint)) continue;${
      hasKeys
        ? "\n    if (track->key_count && !track->adds && track->keys[0].at_ms <= from_ms_of(number, track->joint)) return stands;"
        : ""
    }
    const Ms from_ms = from_ms_of(number, track->joint);
    const Target reach = reach_of(track->joint, from_ms + step->move_ms - from_ms, step->easing);
    const Target to = target_in(step, track->joint);
    const Target near = stands < to + reach ? stands : to + reach;
    return near > to - reach ? near : to - reach;
  }
  return stands;
}

/* Stands at a moment; waits before it are behind. */
static void place(Ms ms)
{
  at_ms = ms;
  is_returning = false;
  next_wait = 0;
  while (next_wait < routine->step_count && !(routine->steps[next_wait].kind == WAIT && begins_ms[next_wait] >= ms)) next_wait++;
}

/* Begins the way to where the routine is now; nothing to do where its joints are there. */
static void lead_in(void)
{
  lead_in_ms = 0;
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    lead_from[at] = live[joint].wish;
    const Ms ms = lead_ms_of(joint, way_of(value_of(at), lead_from[at]));
    if (is_mine[joint] && ms > lead_in_ms) lead_in_ms = ms;
  }
  lead_left_ms = lead_in_ms;
  phase = lead_in_ms > 0 ? LEADING_IN : PLAYING;
}

static void lead_on(Ms dt_ms)
{
  lead_left_ms = lead_left_ms > dt_ms ? lead_left_ms - dt_ms : 0;
  const Share share = ease(LEAST_JERK, FULL - share_of(lead_left_ms, lead_in_ms));
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    if (!is_mine[joint]) continue;
    const Target to = value_of(at);
    live[joint].wish = share == FULL ? to : lead_from[at] + part(to - lead_from[at], share);
  }
  if (lead_left_ms == 0) phase = PLAYING;
}

static void write_wishes(void)
{
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    if (is_mine[joint]) live[joint].wish = value_of(at);
  }
}

static void end_routine(void)
{
  if (routine->releases)
    for (uint8_t at = 0; at < routine->track_count; at++) {
      Live *now = &live[routine->tracks[at].joint];
      if (!is_mine[routine->tracks[at].joint]) continue;
      now->is_held = false;
      if (now->count != NO_COUNT) let_go(&joints[routine->tracks[at].joint]);
      now->count = NO_COUNT;
    }
  phase = IDLE;
}

static void end_round(void)
{
  write_wishes();
  rounds_done++;
  if (routine->rounds && rounds_done >= routine->rounds) {
    end_routine();
    return;
  }
  const Ms end_ms = is_returning ? 0 : length_ms;
  for (uint8_t at = 0; at < routine->track_count; at++) starts[at] = base_at(&routine->tracks[at], end_ms, starts[at]);
  place(0);
  if (length_ms > 0) lead_in();
}

/* Runs to the next wait, the end of the way, or as far as time goes. Gives the time that is left. */
static Ms run_on(Ms dt_ms)
{
  if (is_returning) {
    at_ms -= dt_ms;
    if (at_ms > 0) return 0;
    const Ms over_ms = -at_ms;
    at_ms = 0;
    end_round();
    return over_ms;
  }
  const Ms to_ms = at_ms + dt_ms;
  const bool is_wait = next_wait < routine->step_count;
  if (is_wait && begins_ms[next_wait] <= (to_ms < length_ms ? to_ms : length_ms)) {
    at_ms = begins_ms[next_wait];
    phase = WAITING;
    waited_ms = 0;
    return 0;
  }
  if (to_ms < length_ms) {
    at_ms = to_ms;
    return 0;
  }
  at_ms = length_ms;
  if (routine->goes_there_and_back) is_returning = true;
  else end_round();
  return to_ms - length_ms;
}

static void play_on(Ms dt_ms)
{
  Ms left_ms = dt_ms;
  for (uint8_t passed = 0; passed < 50 && phase == PLAYING; passed++) {
    left_ms = run_on(left_ms);
    if (left_ms <= 0) break;
  }
  if (phase == PLAYING || phase == WAITING) write_wishes();
}

static void wait_on(Ms dt_ms)
{
  const Step *step = &routine->steps[next_wait];
  waited_ms += dt_ms;
  write_wishes();
  const bool is_met = ${isMet};
  const bool is_over = step->hold_ms > 0 && waited_ms >= step->hold_ms;
  if (!is_met && !is_over) return;
  if (!is_met && step->easing) {
    end_routine();
    return;
  }
  while (++next_wait < routine->step_count && routine->steps[next_wait].kind != WAIT) {}
  phase = PLAYING;
}
`;
};
