export { channelGroupsOf } from "./channelGroups";
export { fullScaleOf, pulseChipPrescale, pulseChipReachHz } from "./dutyMakers";
export * from "./frame";
export { registerWithin, type SignalMaker } from "./maker";
export * from "./quantity";
export { channelMakersOf, framePeriodsUs, makerOf, signalMakerOf } from "./signalMaker";
export { sleepsFor } from "./softwareMakers";
export * from "./spin";
export { timerPeriodUs, timerTickUs, timerTop } from "./timerMaker";
