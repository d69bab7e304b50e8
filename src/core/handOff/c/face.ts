import type { OwnLines } from "@core/project";
import type { Machine } from "../machine";
import type { Spelling } from "./spelling";

/** Leads know nothing yet, and nobody has a joint. */
const leadsBegin = ({ leads }: Machine) =>
  [
    "for (uint8_t at = 0; at < JOINT_COUNT; at++) {",
    "  led_by[at] = -1;",
    "  has_hand[at] = false;",
    "  blend_ms[at] = 0;",
    "}",
    "for (uint8_t at = 0; at < SOURCE_COUNT; at++) {",
    "  sources[at].has_value = sources[at].is_touched = false;",
    "  sources[at].further_count = 0;",
    "}",
    ...leads.map((_, at) => `lead_${at} = lead_${at}_begins;`),
  ]
    .map((line) => `  ${line}\n`)
    .join("");

export function faceText(machine: Machine, { start }: OwnLines, spelling: Spelling): string {
  const { name, poses, routines } = machine;
  const { isWhole, isNone, askedMs } = spelling;
  const orNone = isNone ? ` || ${isNone("target")}` : "";
  const hasPlayer = routines.length > 0;
  const hasPoses = poses.length > 0;
  const stopped = [
    ...(hasPlayer ? ["  phase = IDLE;"] : []),
    ...(hasPoses
      ? ["  for (uint8_t at = 0; at < JOINT_COUNT; at++) is_gliding[at] = false;", "  glide_ms = glided_ms = 0;"]
      : []),
  ];
  const hasLeads = machine.leads.length > 0;
  const moving = [...(hasPlayer ? ["phase != IDLE"] : []), ...(hasPoses ? ["glided_ms < glide_ms"] : [])].join(" || ");
  return `/* ---- What is called. ---- */

${hasLeads ? "" : "static bool has_ticked;\nstatic uint32_t last_ms;\n\n"}void ${name}_begin(void)
{
${start
  .trim()
  .split("\n")
  .filter((line) => line !== "")
  .map((line) => `  ${line}\n`)
  .join("")}  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    find_bounds(at);
    live[at].is_held = false;
    live[at].wish = live[at].target = joints[at].home;
    live[at].count = NO_COUNT;${machine.families.length > 0 ? "\n    is_switched_on[at] = false;" : ""}${isWhole ? "\n    live[at].rest = 0;" : ""}
  }
${stopped.map((line) => `${line}\n`).join("")}  has_ticked = false;
${hasLeads ? leadsBegin(machine) : ""}}

void ${name}_stands(uint8_t joint, Target target)
{
  if (joint >= JOINT_COUNT || live[joint].is_held${orNone}) return;
  if (target < joints[joint].low) target = joints[joint].low;
  if (target > joints[joint].high) target = joints[joint].high;
  live[joint].wish = live[joint].target = target;
}

void ${name}_hold(void)
{
  for (uint8_t at = 0; at < JOINT_COUNT; at++) live[at].is_held = true;
}
${
  hasPlayer || hasPoses
    ? `
/* Ends what plays; its joints stay where they are. */
static void halt(void)
{
  for (uint8_t at = 0; at < JOINT_COUNT; at++)
    if (${[...(hasPlayer ? ["(phase != IDLE && is_mine[at])"] : []), ...(hasPoses ? ["is_gliding[at]"] : [])].join(" || ")}) {
      live[at].wish = live[at].target;
${hasLeads ? "      blend_ms[at] = 0;\n" : ""}    }
${stopped.join("\n")}
}
`
    : ""
}
void ${name}_stop(void)
{
${hasPlayer || hasPoses ? "  halt();\n" : ""}  for (uint8_t at = 0; at < JOINT_COUNT; at++)${
    hasLeads
      ? `
    if (led_by[at] < 0) {
      live[at].wish = live[at].target;
      blend_ms[at] = 0;
    }`
      : " live[at].wish = live[at].target;"
  }
}

void ${name}_release(void)
{
  ${name}_stop();
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    live[at].is_held = false;
    live[at].count = NO_COUNT;
${hasLeads ? "    live[at].wish = live[at].target;\n    led_by[at] = -1;\n    has_hand[at] = false;\n    blend_ms[at] = 0;\n" : ""}    let_go(&joints[at]);
  }
}

void ${name}_go(uint8_t joint, Target target)
{
  if (joint >= JOINT_COUNT || !live[joint].is_held) return;
${hasLeads ? `  if (${[...(hasPlayer ? ["(phase != IDLE && is_mine[joint])"] : []), ...(hasPoses ? ["is_gliding[joint]"] : []), "led_by[joint] >= 0"].join(" || ")}) change_hands(joint, 0);\n  has_hand[joint] = true;\n` : ""}${hasPlayer ? "  is_mine[joint] = false;\n" : ""}${hasPoses ? "  is_gliding[joint] = false;\n" : ""}  live[joint].wish = target;
}
${
  hasPoses
    ? `
void ${name}_pose(uint8_t pose, ${askedMs.type} in_ms)
{
  if (pose >= POSE_COUNT${askedMs.isWrong ? ` || ${askedMs.isWrong}` : ""}) return;
  bool is_any = false;
  for (uint8_t at = 0; at < JOINT_COUNT; at++) is_any = is_any || (live[at].is_held && poses[pose][at] != KEEP);
  if (!is_any) return;
  halt();
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    if (!live[at].is_held || poses[pose][at] == KEEP) continue;
    live[at].wish = live[at].target;
${hasLeads ? "    change_hands(at, 0);\n" : ""}    is_gliding[at] = true;
    glide_from[at] = live[at].wish;
    glide_to[at] = poses[pose][at];
  }
  glide_ms = ${askedMs.own};
  glided_ms = 0;
  is_brought = in_ms == 0;
  if (!is_brought) return;
  /* In no time at all: no faster than a beginning is come to. */
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    const Ms ms = is_gliding[at] ? lead_ms_of(at, way_of(glide_to[at], glide_from[at])) : 0;
    if (ms > glide_ms) glide_ms = ms;
  }
}
`
    : ""
}${
  hasPlayer
    ? `
bool ${name}_play(uint8_t which)
{
  if (which >= ROUTINE_COUNT) return false;
  bool is_any = false;
  for (uint8_t at = 0; at < routines[which].track_count; at++) is_any = is_any || live[routines[which].tracks[at].joint].is_held;
  if (!is_any) return false;
  halt();
  routine = &routines[which];
  for (uint8_t at = 0; at < JOINT_COUNT; at++) is_mine[at] = false;
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    is_mine[joint] = live[joint].is_held;
    if (!is_mine[joint]) continue;
    live[joint].wish = live[joint].target;
${hasLeads ? "    change_hands(joint, 0);\n" : ""}
  }
  step_now = 0;
  rounds_done = 0;
  lay_steps();
  for (uint8_t at = 0; at < routine->track_count; at++) starts[at] = near_start(&routine->tracks[at]);
  place(0);
  lead_in();
  return true;
}
`
    : ""
}
bool ${name}_is_moving(void) { return ${moving || "false"}; }

${
  hasLeads
    ? `void ${name}_feed(uint8_t source, double value)
{
  if (source >= SOURCE_COUNT || !(value - value == 0)) return;
  Source *own = &sources[source];
  if (own->is_touched && every_change_counts[source] && own->further_count < 8) {
    own->further[own->further_count++] = value;
    return;
  }
  own->value = value;
  own->has_value = own->is_touched = true;
}

`
    : ""
}void ${name}_tick(uint32_t now_ms)
{
  const uint32_t since_ms = now_ms - last_ms;
  if (has_ticked && since_ms < FRAME_MS) return;
  /* However late: time moves on by no more than this. */
  const Ms dt_ms = !has_ticked ? 0 : ${spelling.sinceMs("since_ms > 50 ? 50 : since_ms")};
  has_ticked = true;
  last_ms = now_ms;
${hasLeads ? "  step_leads(dt_ms);\n" : ""}${hasPoses ? "  glide(dt_ms);\n" : ""}${
  hasPlayer
    ? `  if (phase == LEADING_IN) lead_on(dt_ms);
  else if (phase == PLAYING) play_on(dt_ms);
  else if (phase == WAITING) wait_on(dt_ms);
`
    : ""
}  for (uint8_t at = 0; at < JOINT_COUNT; at++)
    if (live[at].is_held) pass_gate(at, dt_ms);
${machine.families.length > 0 ? "  send_goals();\n" : ""}}

Target ${name}_target(uint8_t joint) { return joint < JOINT_COUNT ? live[joint].target : 0; }

int32_t ${name}_count_of(uint8_t at, Target target)
{
  if (at >= JOINT_COUNT${orNone}) return NO_COUNT;
  const Joint *joint = &joints[at];
  if (target < joint->low) target = joint->low;
  if (target > joint->high) target = joint->high;
  return count_for(at, &target);
}

Target ${name}_target_of(uint8_t at, int32_t count)
{
  return at < JOINT_COUNT ? ${isWhole ? "target_at(&joints[at], count)" : "target_at(&joints[at], pulse_of(&joints[at], count))"} : 0;
}
`;
}
