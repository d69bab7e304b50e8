import { type Board, frameHzOf, longestFrameLine } from "@core/project";

/** Start bit, eight bits, stop bit. */
const bitsPerByte = 10;
/** So full a wire still carries its frames in time. */
const mostShare = 0.9;

/** Why a serial port is too slow for the frames of a board, with what would do; null where it is not. */
export function wireTooSlow(board: Board, channels: readonly number[], bitsPerS: number): string | null {
  if (board.encoding.kind === "bus" || channels.length === 0) return null;
  const bytes = longestFrameLine(board, channels);
  const frameHz = Math.max(...channels.map((channel) => frameHzOf(board, channel)));
  const neededBitsPerS = bytes * bitsPerByte * frameHz;
  if (neededBitsPerS <= mostShare * bitsPerS) return null;
  return `A frame of ${board.label} has up to ${bytes} bytes, ${Math.round(frameHz)} times a second: that is ${Math.round((100 * neededBitsPerS) / bitsPerS)} % of what ${bitsPerS} bit/s carry, and frames would come late. ${Math.ceil(neededBitsPerS / mostShare / 100) * 100} bit/s would do.`;
}
