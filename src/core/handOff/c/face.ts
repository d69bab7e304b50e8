import type { OwnLines } from "@core/project";
import type { Machine } from "../machine";
import type { Spelling } from "./spelling";

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
  const moving = [...(hasPlayer ? ["phase != IDLE"] : []), ...(hasPoses ? ["glided_ms < glide_ms"] : [])].join(" || ");
  return `/* ---- What is called. ---- */

static bool has_ticked;
static uint32_t last_ms;

void ${name}_begin(void)
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
}

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

void ${name}_stop(void)
{
${stopped.length > 0 ? stopped.join("\n") : "  /* nothing moves by itself here */"}
  for (uint8_t at = 0; at < JOINT_COUNT; at++) live[at].wish = live[at].target;
}

void ${name}_release(void)
{
  ${name}_stop();
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    live[at].is_held = false;
    live[at].count = NO_COUNT;
    let_go(&joints[at]);
  }
}

void ${name}_go(uint8_t joint, Target target)
{
  if (joint >= JOINT_COUNT || !live[joint].is_held) return;
${hasPlayer ? "  is_mine[joint] = false;\n" : ""}${hasPoses ? "  is_gliding[joint] = false;\n" : ""}  live[joint].wish = target;
}
${
  hasPoses
    ? `
void ${name}_pose(uint8_t pose, ${askedMs.type} in_ms)
{
  if (pose >= POSE_COUNT${askedMs.isWrong ? ` || ${askedMs.isWrong}` : ""}) return;
  ${name}_stop();
  for (uint8_t at = 0; at < JOINT_COUNT; at++) {
    if (!live[at].is_held || poses[pose][at] == KEEP) continue;
    is_gliding[at] = true;
    glide_from[at] = live[at].wish;
    glide_to[at] = poses[pose][at];
  }
  glide_ms = ${askedMs.own};
  glided_ms = 0;
}
`
    : ""
}${
  hasPlayer
    ? `
bool ${name}_play(uint8_t which)
{
  if (which >= ROUTINE_COUNT) return false;
  ${name}_stop();
  routine = &routines[which];
  bool is_any = false;
  for (uint8_t at = 0; at < JOINT_COUNT; at++) is_mine[at] = false;
  for (uint8_t at = 0; at < routine->track_count; at++) {
    const uint8_t joint = routine->tracks[at].joint;
    is_mine[joint] = live[joint].is_held;
    is_any = is_any || is_mine[joint];
  }
  if (!is_any) return false;
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

void ${name}_tick(uint32_t now_ms)
{
  const uint32_t since_ms = now_ms - last_ms;
  if (has_ticked && since_ms < FRAME_MS) return;
  /* However late: time moves on by no more than this. */
  const Ms dt_ms = !has_ticked ? 0 : ${spelling.sinceMs("since_ms > 50 ? 50 : since_ms")};
  has_ticked = true;
  last_ms = now_ms;
${hasPoses ? "  glide(dt_ms);\n" : ""}${
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
