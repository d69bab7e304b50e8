import type { HandOff, OwnLines } from "@core/project";
import { boardComments, type HandedFile, titleOf, waitsOf } from "../describe";
import { easingsUsed, type UsedEasing } from "../easingsUsed";
import { leadFace, leadText } from "../leads/cLeads";
import type { Machine } from "../machine";
import { columns } from "../numbers";
import { packetFace, packetTables, packetText } from "../packets/cPackets";
import { wholeWords } from "../whole/bound";
import { faceText } from "./face";
import { gateText } from "./gate";
import { playerText } from "./player";
import { routineTables } from "./routineTables";
import { real, type Spelling, whole } from "./spelling";
import { realMath, realMoves, realRoutineSums, realTypes } from "./sums";
import { jointTable, jointTypes, knotsOf, ownFunctions, poseTable } from "./tables";
import { easingNumbers, wholeMath, wholeMoves, wholeRoutineSums, wholeTypes } from "./wholeSums";
import { wholeJointTable, wholeJointTypes } from "./wholeTables";
import { comment, upper } from "./words";

type Numbers = HandOff["numbers"];

/**
 * The machine as C99: a header, and a source that needs no library, allocates nothing and compiles with all warnings as errors. In floating point each sum is
 * written as the bench does it, so that the same counts come out; in whole numbers it says how near it comes.
 */
export function cFiles(machine: Machine, lines: OwnLines, numbers: Numbers): readonly HandedFile[] {
  const used = easingsUsed(machine);
  const spelling = numbers === "whole" ? whole : real;
  return [
    { name: `${machine.name}.h`, text: header(machine, spelling) },
    { name: `${machine.name}.c`, text: source(machine, lines, used, spelling) },
  ];
}

function header(machine: Machine, spelling: Spelling): string {
  const { name, joints, poses, routines } = machine;
  const guard = `${upper(name)}_H`;
  const enumOf = (prefix: string, items: readonly { name: string; label: string }[]) =>
    items.length === 0
      ? []
      : [
          "enum {",
          ...columns(items.map((item) => [`  ${prefix}_${upper(item.name)},`, `/* ${comment(item.label)} */`])),
          `  ${prefix}_COUNT`,
          "};",
          "",
        ];
  const waits = waitsOf(machine);
  return [
    `/* ${comment(titleOf(machine))}. Written by Vantel. C99; it needs nothing else. */`,
    `#ifndef ${guard}`,
    `#define ${guard}`,
    "",
    "#include <stdbool.h>",
    "#include <stdint.h>",
    "",
    ...spelling.types,
    "",
    "/* A frame leaves this often; tick as often as you like. */",
    `#define FRAME_MS ${machine.frameMs}`,
    "",
    ...enumOf("JOINT", joints),
    ...enumOf("POSE", poses),
    ...enumOf("ROUTINE", routines),
    ...(machine.leads.length > 0 ? leadFace(machine) : []),
    "/* Once, at the start. Nothing is driven by it. */",
    `void ${name}_begin(void);`,
    "/* Where a joint stands, if you know it. Else it is taken to stand at its home. Before it is held. */",
    `void ${name}_stands(uint8_t joint, Target target);`,
    "/* Gives all joints their signal. A hobby servo goes to where it is taken to stand at once, at its own speed. */",
    `void ${name}_hold(void);`,
    "/* Takes the signal off all channels. Ends what plays. */",
    `void ${name}_release(void);`,
    "/* Asks a joint for a target; limits and speed are kept. What plays has it no more. */",
    `void ${name}_go(uint8_t joint, Target target);`,
    ...(poses.length > 0
      ? [
          "/* Brings the joints of a pose there, softly, in so many ms. */",
          `void ${name}_pose(uint8_t pose, ${spelling.askedMs.type} in_ms);`,
        ]
      : []),
    ...(routines.length > 0
      ? [
          "/* Plays a routine, after its joints were brought to its beginning. False where nothing is held. */",
          `bool ${name}_play(uint8_t routine);`,
        ]
      : []),
    "/* Ends what plays; joints stay where they are, held. */",
    `void ${name}_stop(void);`,
    `bool ${name}_is_moving(void);`,
    "/* Call it again and again: it never waits. The time may turn over. */",
    `void ${name}_tick(uint32_t now_ms);`,
    "/* What a joint was asked for last and let through. */",
    `Target ${name}_target(uint8_t joint);`,
    "/* From a target to the number for the board, within limits and window; NO_COUNT where there is none. And back. */",
    "#define NO_COUNT INT32_MIN",
    `int32_t ${name}_count_of(uint8_t joint, Target target);`,
    `Target ${name}_target_of(uint8_t joint, int32_t count);`,
    ...(waits.length > 0
      ? [
          "/* Yours to write: whether what a routine waits for has happened.",
          ...waits.map((words, at) => ` *   ${at}: ${comment(words)}`),
          " */",
          `bool ${name}_is_met(uint8_t wait);`,
        ]
      : []),
    ...packetFace(machine),
    "",
    "#endif",
    "",
  ].join("\n");
}

function source(machine: Machine, lines: OwnLines, used: readonly UsedEasing[], spelling: Spelling): string {
  const { name, joints, poses, routines } = machine;
  const hasPackets = machine.families.length > 0;
  const { isWhole } = spelling;
  const moves = routines.length > 0 || poses.length > 0;
  const hasKnots = joints.some(({ curve }) => curve.kind === "piecewise");
  const hasKeys = routines.some(({ tracks }) => tracks.some(({ keys }) => keys.length > 0));
  const isSmooth = routines.some(({ tracks }) =>
    tracks.some(({ keys }) => keys.some(({ shape }) => shape === "smooth")),
  );
  const needsHermite = isSmooth || used.some(({ formula }) => formula.some(({ is }) => is.includes("hermite(")));
  return [
    `/* ${comment(titleOf(machine))}. Written by Vantel. */`,
    ...(spelling.isWhole ? [`/* ${wholeWords(machine)} */`] : []),
    ...(lines.top.trim() ? [lines.top.trimEnd()] : []),
    `#include "${name}.h"`,
    "#include <stddef.h>",
    "",
    ...boardComments(machine).map(
      (line, at, all) => `${at === 0 ? "/*" : " *"} ${comment(line)}${at === all.length - 1 ? " */" : ""}`,
    ),
    "",
    "/* ---- The joints: change numbers here. ---- */",
    "",
    ...(isWhole
      ? [...wholeTypes, ...wholeJointTypes, ...wholeJointTable(machine)]
      : [
          ...realTypes,
          ...jointTypes(hasKnots),
          ...(hasKnots ? joints.flatMap(knotsOf) : []),
          ...jointTable(joints, hasKnots),
        ]),
    "",
    ...(moves ? poseTable(machine, spelling) : []),
    ...(moves ? easingNumbers(used) : []),
    ...(routines.length > 0 ? routineTables(machine, used, spelling, hasKeys) : []),
    ...(hasPackets ? packetTables(machine) : []),
    "/* ---- Your own lines: how your platform puts a number on a pin. ---- */",
    "",
    ...ownFunctions(machine, lines, isWhole),
    "/* ---- From targets to counts, as the bench does it. ---- */",
    "",
    ...(isWhole ? wholeMath : realMath(hasKnots, needsHermite)),
    ...(moves ? (isWhole ? wholeMoves : realMoves)(used) : []),
    ...(routines.length > 0 ? (isWhole ? wholeRoutineSums : realRoutineSums)(used, isSmooth) : []),
    gateText(machine, spelling),
    ...(hasPackets ? packetText(machine) : []),
    ...(moves ? playerText(machine, spelling, hasKeys, isSmooth) : []),
    ...(machine.leads.length > 0 ? leadText(machine) : []),
    faceText(machine, lines, spelling),
  ].join("\n");
}
