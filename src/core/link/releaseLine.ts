import { LineWriter } from "./lineWriter";

/** A release that a board obeys whatever was said before: its number is never too old, and it need not have been greeted. */
export const releaseLine: Uint8Array = new LineWriter().begin("R ").number(1).end().slice();
