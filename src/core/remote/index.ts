export { type BenchAsk, type BenchTold, benchAskSchema, benchToldSchema, type Standing } from "./benchTalk";
export { Bucket } from "./bucket";
export { ClockSync } from "./clockSync";
export { DoorLog, type LogEntry } from "./doorLog";
export {
  type Act,
  type DoorSettings,
  type DoorState,
  type DoorsStanding,
  doorSettingsSchema,
  type Handset,
  type Said,
  shutDoors,
  type Wants,
} from "./doors";
export { type Freshness, Newest } from "./newest";
export { type Doing, PadHands } from "./padHands";
export {
  type BenchState,
  type Hand,
  handsAtMost,
  type PadAsk,
  type PadTold,
  padAskSchema,
  padToldSchema,
} from "./padTalk";
export { type Code, codeForMs, Pairing } from "./pairing";
export { type Device, mayUse, type Rights, usualRights } from "./rights";
export { type JointStanding, statesOf } from "./states";
export { cueRootOf, levelOf, payloadBytesAtMost, type ReadMessage, readMessage, topicsOf } from "./topics";
export { Universe, type UniversePacket, universeSilentMs } from "./universe";
export { wantsOf } from "./wants";
