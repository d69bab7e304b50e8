/**
 * CRC-8, polynomial x⁸+x²+x+1 (0x07), start 0, not reflected, no final xor: the check of "123456789" is 0xF4.
 * A table of 256 entries, so that a line costs one look-up a byte.
 */
const table = Uint8Array.from({ length: 256 }, (_, byte) => {
  let crc = byte;
  for (let bit = 0; bit < 8; bit += 1) crc = crc & 0x80 ? (crc << 1) ^ 0x07 : crc << 1;
  return crc & 0xff;
});

/** The check value after one more byte. Start with 0. */
export const crc8Next = (crc: number, byte: number): number => table[(crc ^ byte) & 0xff] as number;

/** The check value of the bytes from `start` up to `end`. */
export function crc8(bytes: Uint8Array, start = 0, end = bytes.length): number {
  let crc = 0;
  for (let at = start; at < end; at += 1) crc = crc8Next(crc, bytes[at] as number);
  return crc;
}
