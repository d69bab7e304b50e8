export { type CleanedChannel, type Cleaning, cleaned, keysInPlace } from "./clean";
export { type Recorded, Recorder } from "./recorder";
export { type Corner, largestError, reduceToCorners } from "./reduce";
export { smoothed } from "./smooth";
