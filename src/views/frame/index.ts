/* What stands around every station. One door for all: so the layout loads one file. */
export { Hints } from "./Hints";
export { Notices } from "./Notices";
export { Rack } from "./Rack";
export { StationPath } from "./StationPath";
export { TopLine } from "./TopLine";
export { Trace } from "./Trace";
