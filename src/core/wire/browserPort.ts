import { wholeBetween } from "@core/schema";
import * as z from "zod/mini";
import { directionSchema, highestBitsPerS, lowestBitsPerS, type WireKind } from "./wireKind";

const usbId = z.nullable(wholeBetween(0, 0xffff));

/** A serial port of the computer on which the page runs. What the browser tells of it is all by which it is found again. */
const schema = z.strictObject({
  kind: z.literal("browserPort"),
  vendorId: usbId,
  productId: usbId,
  /** Which of several that look alike, counted from 0 in the browser's order. */
  place: wholeBetween(0, 99),
  bitsPerS: wholeBetween(lowestBitsPerS, highestBitsPerS),
  direction: directionSchema,
});

const hex = (id: number | null) => (id === null ? "?" : id.toString(16).padStart(4, "0"));

export const browserPort: WireKind<typeof schema> = {
  schema,
  name: "A serial port of this browser",
  begin: () => ({ kind: "browserPort", vendorId: null, productId: null, place: 0, bitsPerS: 115_200 }),
  words: ({ vendorId, productId }) =>
    vendorId === null ? "a serial port of this browser" : `the port ${hex(vendorId)}:${hex(productId)} of this browser`,
};
