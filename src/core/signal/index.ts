export * from "./boardAsSaid";
export { channelGroupsOf } from "./channelGroups";
export * from "./quantity";
export { channelMakersOf, framePeriodsUs, signalMakerOf } from "./signalMaker";
export * from "./spin";
export * from "./wireShare";
