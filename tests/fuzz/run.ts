import { escapesOf, happenings, shrunk } from "./benchFuzz";
import { siege } from "./doors";
import { feedGarbage, firmwareDifference } from "./firmware";
import { eventDifference, handOffDifference } from "./handOff";
import { randomRig } from "./randomRig";
import { screenFaults } from "./screens";
import { wiredRig } from "./wiredRig";

/**
 * `npm run fuzz -- SEED RUNS STEPS`: that many runs from a seed on; what escapes is cut down and told.
 * `npm run fuzz -- handOff SEED RIGS`: that many made-up rigs as code in C and Python, held against the bench; every second one with smart servos.
 * `npm run fuzz -- leads SEED RIGS TICKS`: that many rigs with leads, while things happen to code and bench alike.
 * `npm run fuzz -- doors SEED MESSAGES`: so many messages of no sense, or of no right, at every door of a server with all of them open.
 * `npm run fuzz -- screens SEED STEPS`: so many random doings at the built bench in a browser, with parts that cannot be fetched and a database that is cleared.
 * `npm run fuzz -- firmware SEED LINES`: so many lines, and as many bytes of garbage, against the firmware.
 */
if (process.argv[2] === "firmware") {
  const [seed = 1, lines = 1_000_000] = process.argv.slice(3).map(Number);
  const difference = firmwareDifference(seed, lines);
  feedGarbage(seed, lines);
  console.log(difference ?? `${lines} lines from seed ${seed}: the firmware says and does what the page says.`);
  process.exit(difference ? 1 : 0);
}
if (process.argv[2] === "screens") {
  const [seed = 1, steps = 2000] = process.argv.slice(3).map(Number);
  const faults = await screenFaults(seed, steps);
  for (const fault of faults) console.log(fault);
  console.log(`${steps} doings from seed ${seed}: ${faults.length} faults.`);
  process.exit(faults.length > 0 ? 1 : 0);
}
if (process.argv[2] === "doors") {
  const [seed = 1, count = 100_000] = process.argv.slice(3).map(Number);
  const { fault, figures } = await siege(seed, count);
  for (const line of figures) console.log(line);
  console.log(fault ?? `${count} messages at each door: nobody got in, nothing moved, and who may is heard.`);
  process.exit(fault ? 1 : 0);
}
const handed = [
  ["c", "real"],
  ["c", "whole"],
  ["python", "real"],
  ["python", "whole"],
] as const;
if (process.argv[2] === "handOff") {
  const [seed = 1, rigs = 200] = process.argv.slice(3).map(Number);
  let same = 0;
  for (let one = seed; one < seed + rigs; one += 1)
    for (const [language, numbers] of handed) {
      const { project, takes } = one % 2 === 0 ? wiredRig(one) : randomRig(one);
      const looks = language === "c" ? { frames: 1500, targets: 100_000 } : { frames: 500, targets: 2000 };
      const found = handOffDifference(project, takes, language, looks, numbers);
      if (typeof found === "string") {
        console.log(`rig ${one} in ${language}, ${numbers} numbers: ${found}`);
        process.exit(1);
      }
      same += found;
    }
  console.log(
    `${same} numbers of ${rigs} rigs from seed ${seed} on are the bench's own, or in whole numbers as near as is said.`,
  );
  process.exit(0);
}
if (process.argv[2] === "leads") {
  const [seed = 1, rigs = 100, ticks = 400] = process.argv.slice(3).map(Number);
  let same = 0;
  for (let one = seed; one < seed + rigs; one += 1)
    for (const language of ["c", "python"] as const) {
      const found = eventDifference(one, language, ticks);
      if (typeof found === "string") {
        console.log(`rig ${one} in ${language}: ${found}`);
        process.exit(1);
      }
      same += found;
    }
  console.log(`${same} numbers of ${rigs} rigs with leads from seed ${seed} on are the bench's own.`);
  process.exit(0);
}
const [seed = 1, runs = 50, steps = 2000] = process.argv.slice(2).map(Number);
let done = 0;
for (let one = seed; one < seed + runs; one += 1) {
  const script = happenings(one, steps);
  const escapes = escapesOf(script);
  done += steps;
  if (escapes.length === 0) continue;
  const short = shrunk(script.slice(0, (escapes[0]?.at ?? steps) + 1));
  console.log(`seed ${one}: ${escapes[0]?.what}`);
  console.log(JSON.stringify(short, null, 1));
  process.exit(1);
}
console.log(`${done} things happened in ${runs} runs from seed ${seed} on; nothing escaped.`);
