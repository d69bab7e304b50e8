export { cFiles } from "./c/cFiles";
export { type HandedFile, titleOf, waitsOf } from "./describe";
export { type HandedOff, handOff, type Sums } from "./handOff";
export { type Machine, machineOf, noCount } from "./machine";
export { checkLines, type Place, places } from "./ownLines";
export { pythonFile } from "./python/pythonFile";
export { type Difference, type ReadBack, readBack, takeOver } from "./readBack";
export { type Cell, jsonOf, markdownOf, type Rows, type TableAsk, type TableFormat, tableOf } from "./tables";
export { wholeBound } from "./whole/bound";
