/**
 * CRC-16 with polynomial x¹⁶+x¹²+x⁵+1 (0x1021), start 0xFFFF, not reflected, no final xor: the check of "123456789" is 0x29B1.
 * A table of 256 entries, so that a line costs one look-up a byte.
 */
const table = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte << 8;
  for (let bit = 0; bit < 8; bit += 1) crc = crc & 0x8000 ? (crc << 1) ^ 0x1021 : crc << 1;
  return crc & 0xffff;
});

export const crc16Start = 0xffff;

/** The check value after one more byte. Start with `crc16Start`. */
export const crc16Next = (crc: number, byte: number): number =>
  (((crc << 8) & 0xffff) ^ (table[(crc >> 8) ^ byte] as number)) & 0xffff;

/** The check value of the bytes from `start` up to `end`. */
export function crc16(bytes: Uint8Array, start = 0, end = bytes.length): number {
  let crc = crc16Start;
  for (let at = start; at < end; at += 1) crc = crc16Next(crc, bytes[at] as number);
  return crc;
}
