import type { Project } from "@core/project";
import { jointDegOf } from "@core/rig";
import { type Score, sampleTrack } from "@core/routine";
import { SimServo, truthOf } from "@core/sim";
import { type SupplyCurrent, supplyCurrents } from "./current";
import { figureMeetings } from "./figureMeetings";
import { wayFindings } from "./figureWays";
import { figureWeights } from "./figureWeights";
import type { Finding } from "./finding";
import { JointLook } from "./jointLook";
import { meetings, overloads } from "./meetings";
import { type Motor, motorOf } from "./motors";
import { stepMs } from "./sampling";

/** What was found out about a routine. */
export interface Examination {
  readonly findings: readonly Finding[];
  readonly currents: readonly SupplyCurrent[];
  /** What the simulated servos will do, by joint id: one angle every `stepMs`. */
  readonly ghosts: Readonly<Record<string, Float32Array>>;
  readonly stepMs: number;
}

/**
 * Looks through a routine for what the servos cannot do: speed and acceleration against the card's and the joint's limits, jumps, travel
 * limits, moves that are cut short, joints that would meet, and the current of the supplies. One round, from where it is taken to begin, as it is when
 * it is played at `speed` (1 is as written); times are those of the score.
 */
export function examine(project: Project, score: Score, { hasGhost = true, speed = 1 } = {}): Examination {
  const motors = project.joints.map((joint) => motorOf(project, joint, speed));
  // One sample past the end: what happens in the last part of a frame counts as well.
  const length = Math.ceil(score.lengthMs / stepMs) + 2;
  const asked = new Map<number, Float32Array>();
  const findings: Finding[] = [];
  const ghosts: Record<string, Float32Array> = {};
  for (const [at, track] of score.tracks.entries()) {
    const motor = motors[track.joint] as Motor;
    const start = score.starts[at] as number;
    const targets = new Float32Array(length);
    sampleTrack(track, start, 0, stepMs, targets);
    asked.set(track.joint, targets);
    const look = new JointLook(project, score, track, start, motor, targets);
    findings.push(...look.atSpeed(), ...look.atAcceleration(), ...look.atTravel(), ...look.atArrival());
    if (hasGhost && motor.joint.axis.kind === "angle") ghosts[motor.joint.id] = ghostOf(project, motor, targets, speed);
  }
  const currents = supplyCurrents(project, score, speed, asked);
  findings.push(...meetings(project, score, motors, asked, length), ...overloads(score, motors, asked, currents));
  findings.push(...wayFindings(project, score), ...figureMeetings(project, score, motors, asked, length));
  findings.push(...figureWeights(project, score, motors, asked, length));
  findings.sort((a, b) => a.fromMs - b.fromMs);
  return { findings, currents, ghosts, stepMs };
}

/** The simulated servo of a joint, told each target in turn. It is taken to stand where it is first sent. */
function ghostOf(project: Project, motor: Motor, targets: Float32Array, speed: number): Float32Array {
  const { map, joint, card } = motor;
  const servo = new SimServo(truthOf(card, project.simulated));
  for (let ms = 0; ms < 4000; ms += stepMs) servo.step(stepMs, map.toSetPoint(targets[0] as number));
  const ghost = new Float32Array(targets.length);
  for (let at = 0; at < targets.length; at += 1) {
    const target = targets[at] as number;
    // What has come to rest, and is told the same again, stands.
    if (at > 0 && target === targets[at - 1] && !servo.isTurning) {
      ghost[at] = ghost[at - 1] as number;
      continue;
    }
    servo.step(stepMs / speed, map.toSetPoint(Math.max(map.lowTarget, Math.min(map.highTarget, target))));
    ghost[at] = joint.axis.kind === "angle" ? jointDegOf(joint.axis, servo.angleDeg) : servo.angleDeg;
  }
  return ghost;
}
