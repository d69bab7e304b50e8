export { type Difference, type ReadBack, readBack, takeOver } from "./back/readBack";
export { cFiles } from "./c/cFiles";
export { type HandedFile, titleOf, waitsOf } from "./describe";
export { cardIn, type Gift, type GiftJoint, type GiftOf, giftOf, isLike, matched, readGift, takeIn } from "./gift/gift";
export { type HandedOff, handOff, type Sums } from "./handOff";
export { leadWords } from "./leads/machineLeads";
export { type Machine, machineOf, noCount } from "./machine";
export { checkLines, type Place, places } from "./ownLines";
export { pythonFile } from "./python/pythonFile";
export { type CardsPage, notesOnPaper, type PosesPage, poseHeadMm, poseLineMm } from "./sheets/cardsAndPoses";
export { type CuePage, cueRowMm } from "./sheets/cues";
export { type HornDrawing, type HornsPage, hornRowMm, hornsInRow } from "./sheets/horns";
export {
  benchSheets,
  footMm,
  marginMm,
  type Paper,
  papers,
  roomMm,
  type SheetKind,
  type SheetPage,
  sheetKinds,
  widthMm,
} from "./sheets/pages";
export { boardHeadMm, plugRowMm, type WiringPage } from "./sheets/wiring";
export { type Cell, jsonOf, markdownOf, type Rows, type TableAsk, type TableFormat, tableOf } from "./tables";
export { wholeBound } from "./whole/bound";
