export { type BusDevice, BusSession, type DeviceNews } from "./busSession";
export { hexByte, hexBytes } from "./bytes";
export { checkValue, checkWords, usualChecks } from "./check";
export { type CheckWorking, type CheckWorkStep, checkWorking } from "./checkSteps";
export { type Dissection, dissect } from "./dissect";
export {
  type EarlierFamily,
  earlierFamily,
  layoutOfVersion4,
  settingsOfVersion1,
  storedOfVersion4,
  type TickMap,
} from "./earlier";
export { type AskedPacket, askedBy, type ByteSpan, countedWords, type Explained, explain, fieldNames } from "./explain";
export { heron, kestrel, layoutById, layoutsOf, shippedLayouts } from "./families";
export { type GuardedDevice, guardPacket, refusalOf } from "./guard";
export {
  copyLayout,
  operationColumns,
  readOperations,
  readRegisters,
  registerColumns,
  writeOperations,
  writeRegisters,
} from "./layoutText";
export { type Direction, encodePacket, fieldsOf, headerOf, type Packet } from "./packet";
export { type Heard, PacketReader } from "./packetReader";
export { type Ask, callOut, type Procedure, presenceIn, silence } from "./procedure";
export { type Example, type Proof, prove, type Remedy } from "./prove";
export { readBytes } from "./readBytes";
export {
  checkRaw,
  decimalsOf,
  rawBytes,
  rawIn,
  rawOf,
  reachOf,
  registerAt,
  registerFor,
  shownOf,
  stretchOf,
  type Turn,
  torqueRule,
  turnOf,
  turnOnCard,
  wordsOf,
} from "./registers";
export {
  groupWriteRequest,
  isAnswered,
  operationFor,
  parametersOf,
  pingRequest,
  readRequest,
  requestOf,
  type Told,
  toldIn,
  writeRequest,
} from "./requests";
export { type Found, isOwnModel, meet, type ScanPlan, type ScanProgress, scan } from "./scan";
export { lacksForJoints, readLayout, readSettings, restore, settingsOf, writeLayout, writeSettings } from "./settings";
export {
  changeSpeed,
  letGoFirst,
  readAll,
  renumber,
  type SetUpOutcome,
  type StepsProgress,
  type WriteOutcome,
  whoIsWhere,
  writeValue,
} from "./setUp";
export {
  bitRateColumns,
  errorColumns,
  modeColumns,
  readBitRates,
  readErrors,
  readModes,
  writeBitRates,
  writeErrors,
  writeModes,
} from "./shortTables";
export { parameterWords, whySilent } from "./silence";
export { alarmsOf, noTelemetry, sensedStretch, type Telemetry } from "./telemetry";
export { errorByteOf, errorsIn, troublesIn } from "./troubles";
export { BusWire, type Exchange, type WireAnswer, type WireEvent } from "./wire";
export { packetBytes, type WirePlan, type WireSpan, type WireUse, wireUs, wireUse } from "./wireTime";
