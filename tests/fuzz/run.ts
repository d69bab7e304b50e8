import { escapesOf, happenings, shrunk } from "./benchFuzz";
import { feedGarbage, firmwareDifference } from "./firmware";

/**
 * `npm run fuzz -- SEED RUNS STEPS`: that many runs from a seed on; what escapes is cut down and told.
 * `npm run fuzz -- firmware SEED LINES`: so many lines, and as many bytes of garbage, against the firmware.
 */
if (process.argv[2] === "firmware") {
  const [seed = 1, lines = 1_000_000] = process.argv.slice(3).map(Number);
  const difference = firmwareDifference(seed, lines);
  feedGarbage(seed, lines);
  console.log(difference ?? `${lines} lines from seed ${seed}: the firmware says and does what the page says.`);
  process.exit(difference ? 1 : 0);
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
