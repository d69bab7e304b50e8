/**
 * Whether a line is one of the first version of the protocol: a body, `#`, and two digits of CRC-8 (polynomial 0x07, start 0). Only so much of it is
 * still known, to tell a person that the board's program is old.
 */
export function isVersion1(bytes: Uint8Array, length: number): boolean {
  if (length < 4 || bytes[length - 3] !== 0x23) return false;
  let crc = 0;
  for (let at = 0; at < length - 3; at += 1) {
    crc ^= bytes[at] as number;
    for (let bit = 0; bit < 8; bit += 1) crc = crc & 0x80 ? ((crc << 1) ^ 0x07) & 0xff : crc << 1;
  }
  const stated = String.fromCharCode(bytes[length - 2] as number, bytes[length - 1] as number);
  return stated === crc.toString(16).toUpperCase().padStart(2, "0");
}
