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

/** Puts the lowest `size` bytes of a whole number into the bytes from `at` on, in their order. */
export function putWhole(bytes: number[], at: number, value: number, size: number, order: ByteOrder): void {
  let left = ((value % 256 ** size) + 256 ** size) % 256 ** size;
  for (let byte = 0; byte < size; byte += 1) {
    bytes[at + (order === "low first" ? byte : size - 1 - byte)] = left % 256;
    left = Math.floor(left / 256);
  }
}

/** The lowest `size` bytes of a whole number, in their order. */
export function wholeBytes(value: number, size: number, order: ByteOrder): number[] {
  const bytes = new Array<number>(size).fill(0);
  putWhole(bytes, 0, value, size, order);
  return bytes;
}

export const hexByte = (byte: number): string => byte.toString(16).toUpperCase().padStart(2, "0");
export const hexBytes = (bytes: Iterable<number>): string => Array.from(bytes, hexByte).join(" ");
