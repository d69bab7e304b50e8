export { giveNames, newGives, supplyWords, usualLimitMa, wiringForAll } from "./begin";
export { cells, innerOhm, restingVolts } from "./cells";
export { type Change, changes, compared, type Outcome } from "./compare";
export { areaOfGauge, gaugeOfArea, mayCarryA, mayWarmByC, pairOhm, reelAreasMm2, warmerByC } from "./conductor";
export { connectors } from "./connectors";
export { courseOf, type Extreme, lastsHours, type PowerCourse, sampledMs } from "./course";
export { type Draw, drawOf, isTurning, modelOf, type Said, startMs } from "./draw";
export { type Box, type Drawing, drawingOf, rowMm, runWords, type Wire } from "./drawing";
export { feedingBetween, type Thing } from "./feeding";
export { blowsWithinS, soldFusesMa } from "./fuses";
export { type ShoppingRow, shoppingList, type WireRow, wireList, wireTable } from "./lists";
export { type MeasureGuide, type MeasureStep, measureGuide } from "./measuring";
export {
  isRoot,
  jointsFedBy,
  type Net,
  netOf,
  type Place,
  placeIn,
  placeLabel,
  portVolts,
  runOhm,
  sourceOf,
  supplyBefore,
} from "./net";
export {
  amps,
  type Concern,
  type Found,
  lookAt,
  plugRoles,
  plugTraps,
  plugWords,
  type RuleKind,
  review,
  rules,
  type State,
  siemensOf,
  volts,
  type WayOut,
  type Weight,
} from "./review";
export { type Loads, noLoads, type Solved, Solver } from "./solve";
export { drawingSvg, labelPlace, type Slice, slicesOf } from "./svg";
export { type SwitchOnLine, switchOnLines } from "./switchOn";
export { type Warmth, warmest } from "./warmth";
export { wireColour } from "./wireColour";
