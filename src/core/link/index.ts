export { crc8 } from "./crc8";
export { LineReader, type ReadLine } from "./lineReader";
export { LineWriter, longestLine } from "./lineWriter";
export { type ExpectedBoard, LinkSession, type LinkState } from "./linkSession";
export {
  type BoardLine,
  type Greeting,
  type HostLine,
  isAfter,
  nextSequence,
  protocolVersion,
  type RefusalCode,
  readBoardLine,
  readHostLine,
  type SilenceAction,
} from "./messages";
