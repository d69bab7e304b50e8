/* What stands around every station. One door for all: so the layout loads one file. */
export { Notices } from "../parts/Notices";
export { Hints } from "./Hints";
export { Rack } from "./Rack";
export { StationPath } from "./StationPath";
export { TopLine } from "./TopLine";
export { Trace } from "./Trace";
