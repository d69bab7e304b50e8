export { type ComparedLine, comparisonOf, type DescribedBoard } from "./comparison";
export { crc16 } from "./crc16";
export { LineReader, type ReadLine } from "./lineReader";
export { checkLength, LineWriter, longestLine } from "./lineWriter";
export { LinkHealth, type LinkHealthReport } from "./linkHealth";
export { type ExpectedBoard, LinkSession, type LinkState } from "./linkSession";
export {
  type BoardLine,
  type ChannelGroup,
  type ChannelLimits,
  type Greeting,
  type HostLine,
  isAfter,
  nextSequence,
  protocolVersion,
  type RefusalCode,
  readBoardLine,
  readHostLine,
  type SilenceAction,
  setWords,
} from "./messages";
export { releaseLine } from "./releaseLine";
export { StrangeBytes } from "./strangeBytes";
