import type { BenchAsk, DoorsStanding, LogEntry, Standing } from "@core/remote";

/** What the page asks of what comes from afar. */
export type RemoteAsk =
  /** Somebody looks at it, or no more: the server is talked to though nothing on the bench needs it. */
  | { readonly kind: "look"; readonly isLooking: boolean }
  | Extract<BenchAsk, { kind: "letIn" | "code" | "device" | "throwOut" | "doors" | "handset" | "cue" }>;

/** Who has a thumb on which control. */
export interface Touch {
  readonly deviceId: string;
  readonly who: string;
  readonly controlId: string;
}

/** What the page is told of it. */
export type RemoteTold =
  /** Whether the server is there; the sentence says why not. */
  | { readonly kind: "line"; readonly isThere: boolean; readonly sentence: string }
  | { readonly kind: "standing"; readonly standing: Standing }
  | { readonly kind: "doors"; readonly doors: DoorsStanding }
  | { readonly kind: "log"; readonly entries: readonly LogEntry[] }
  | { readonly kind: "touches"; readonly touches: readonly Touch[] }
  /** From the thumb to the pulse, by device: the middle of the last ones, in ms. */
  | { readonly kind: "lags"; readonly lags: Readonly<Record<string, number>> };
