export {
  type AskedPacket,
  askedBy,
  type ByteSpan,
  countedWords,
  type Explained,
  explain,
  fieldNames,
} from "./explain/explain";
export { type GuardedDevice, guardPacket, refusalOf } from "./explain/guard";
export { type Example, type Proof, prove, type Remedy } from "./explain/prove";
export { heron, kestrel, layoutById, layoutsOf, shippedLayouts } from "./families";
export { hexByte, hexBytes } from "./packets/bytes";
export { checkValue, checkWords, reflected as reflectedBits, usualChecks } from "./packets/check";
export { type CheckWorking, type CheckWorkStep, checkWorking } from "./packets/checkSteps";
export { type Dissection, dissect } from "./packets/dissect";
export {
  type Direction,
  encodePacket,
  fieldSize,
  fieldsOf,
  headerOf,
  lengthBeyond,
  type Packet,
} from "./packets/packet";
export { type Heard, PacketReader } from "./packets/packetReader";
export { readBytes } from "./packets/readBytes";
export { type Ask, callOut, type Procedure, presenceIn, silence } from "./procedures/procedure";
export { type Found, isOwnModel, meet, type ScanPlan, type ScanProgress, scan } from "./procedures/scan";
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
} from "./procedures/setUp";
export { goalPackets } from "./registers/goalPackets";
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
} from "./registers/registers";
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
} from "./registers/requests";
export { alarmsOf, noTelemetry, sensedStretch, type Telemetry } from "./registers/telemetry";
export { errorByteOf, errorsIn, troublesIn } from "./registers/troubles";
export { BusSession } from "./session/busSession";
export type { BusDevice, DeviceNews } from "./session/liveDevice";
export {
  type EarlierFamily,
  earlierFamily,
  layoutOfVersion4,
  settingsOfVersion1,
  storedOfVersion4,
  type TickMap,
} from "./texts/earlier";
export {
  copyLayout,
  operationColumns,
  readOperations,
  readRegisters,
  registerColumns,
  writeOperations,
  writeRegisters,
} from "./texts/layoutText";
export {
  lacksForJoints,
  readLayout,
  readSettings,
  restore,
  settingsOf,
  writeLayout,
  writeSettings,
} from "./texts/settings";
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
} from "./texts/shortTables";
export { parameterWords, whySilent } from "./wire/silence";
export { BusWire, type Exchange, gapUs, type WireAnswer, type WireEvent } from "./wire/wire";
export { packetBytes, type WirePlan, type WireSpan, type WireUse, wireUs, wireUse } from "./wire/wireTime";
