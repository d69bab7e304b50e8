import { atRest } from "./atRest";
import { busFuzz, busPackets, busTick } from "./busPackets";
import { conversions } from "./conversions";
import { engineTick, leadsTick } from "./engineTick";
import { figureSpeed } from "./figure";
import { firmwareSize } from "./firmwareSize";
import { firstPage } from "./firstPage";
import { handOffSpeed } from "./handOff";
import { hiddenTab } from "./hiddenTab";
import { hourOnScreen } from "./hourOnScreen";
import { inputLag } from "./inputLag";
import { busOnWire, onWire } from "./onWire";
import { reduction, sampling } from "./performance";
import { powerSpeed } from "./power";
import { remote } from "./remote";
import { testBed } from "./testBed";
import { wobble } from "./wobble";

/** Words on the command line choose: only titles that hold one of them are measured. */
const wanted = process.argv.slice(2).map((word) => word.toLowerCase());

/** Prints the figures that speed is judged by. Nothing here passes or fails: machines differ, and so do days. */
for (const [title, run] of [
  ["One engine tick, 32 joints", engineTick],
  ["The same with 64 leads of 6 shapers", leadsTick],
  ["Conversions", conversions],
  ["Wobble", wobble],
  ["Packets of smart servos", busPackets],
  ["One tick of the demo, with its simulated bus", busTick],
  ["Packets in noise, cut anywhere", busFuzz],
  ["Calibration test bed", testBed],
  ["A routine, sampled and checked", sampling],
  ["A take, reduced to keys", reduction],
  ["An hour of 32 joints on the screen", hourOnScreen],
  ["Each page at rest", atRest],
  ["While its tab is hidden", hiddenTab],
  ["From hand to pulse", inputLag],
  ["Figures: both ways, and what meets", figureSpeed],
  ["Power: an hour, a review, a drawing", powerSpeed],
  ["Code that is handed off", handOffSpeed],
  ["The firmware with 16 channels", firmwareSize],
  ["Frames at a real board", onWire],
  ["Smart servos on a real wire", busOnWire],
  ["Pads, floods and cues from afar", remote],
  ["The first page's JavaScript", firstPage],
] as const) {
  if (wanted.length > 0 && !wanted.some((word) => title.toLowerCase().includes(word))) continue;
  console.log(`\n${title}`);
  for (const line of await run()) console.log(`  ${line}`);
}
