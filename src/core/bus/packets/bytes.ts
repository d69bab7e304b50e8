import type { ByteOrder } from "@core/project";

/** A whole number of `size` bytes as it stands in the bytes from `at` on; bytes that are not there count as 0. Never negative. */
export function readWhole(bytes: ArrayLike<number>, at: number, size: number, order: ByteOrder): number {
  let value = 0;
  for (let byte = 0; byte < size; byte += 1) {
    const place = order === "low first" ? size - 1 - byte : byte;
    value = value * 256 + (bytes[at + place] ?? 0);
  }
  return value;
}

/** The lowest `size` bytes of a whole number, in their order. */
export function wholeBytes(value: number, size: number, order: ByteOrder): number[] {
  const bytes: number[] = [];
  let left = ((value % 256 ** size) + 256 ** size) % 256 ** size;
  for (let byte = 0; byte < size; byte += 1) {
    bytes.push(left % 256);
    left = Math.floor(left / 256);
  }
  return order === "low first" ? bytes : bytes.reverse();
}

export const hexByte = (byte: number): string => byte.toString(16).toUpperCase().padStart(2, "0");
export const hexBytes = (bytes: Iterable<number>): string => Array.from(bytes, hexByte).join(" ");
