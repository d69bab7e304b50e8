import { handsText } from "../leads/cLeads";
import type { Machine } from "../machine";
import type { Spelling } from "./spelling";
import { realGateSums } from "./sums";
import { wholeGateSums } from "./wholeSums";

/** The gate, through which every target goes. */
export const gateText = (
  machine: Machine,
  { isWhole, isNone }: Spelling,
): string => `/* ---- The gate: every target passes it, whoever asks. ---- */

typedef struct {
  bool is_held;
  Target wish;   /* what is asked for */
  Target target; /* what was let through */
  int32_t count; /* what the board was told last; NO_COUNT for no signal */${isWhole ? "\n  int64_t rest;  /* of the last frame's way, behind the point */" : ""}
} Live;
static Live live[JOINT_COUNT];

${machine.leads.length > 0 ? handsText(machine) : ""}${isWhole ? wholeGateSums : realGateSums}
static void pass_gate(uint8_t at, Ms dt_ms)
{
  const Joint *joint = &joints[at];
  Live *now = &live[at];
  Target target = ${machine.leads.length > 0 ? "blended(at)" : "now->wish"};
${isNone ? `  if (${isNone("target")}) target = now->target; /* not a number, or without end */\n` : ""}  if (target < joint->low) target = joint->low;
  else if (target > joint->high) target = joint->high;
  if (joint->per_s > 0) {
    const Target most = most_of(at, dt_ms);
    const Target step = target - now->target;
    if (step > most) target = now->target + most;
    else if (step < -most) target = now->target - most;
  }
  const int32_t count = count_for(at, &target);
  if (count != NO_COUNT) now->target = target;
  const bool is_limp = count == NO_COUNT || (joint->is_limp_at_rest && now->target == 0);
  if (is_limp) {
    if (now->count != NO_COUNT) let_go(joint);
    now->count = NO_COUNT;
  } else {
    if (now->count != count) set_pin(joint, count, target);
    now->count = count;
  }
}
`;
