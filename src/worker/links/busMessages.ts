import type { Found, ScanProgress, SetUpOutcome, StepsProgress, Telemetry, WireEvent, WriteOutcome } from "@core/bus";

/** Something that takes many exchanges on the wire. */
export type BusRun =
  | {
      readonly kind: "scan";
      readonly layoutIds: readonly string[];
      readonly lowestId: number;
      readonly highestId: number;
      readonly bitsPerS: readonly number[];
    }
  | { readonly kind: "meet"; readonly layoutId: string; readonly id: number }
  | { readonly kind: "renumber"; readonly layoutId: string; readonly from: number; readonly to: number }
  | {
      readonly kind: "changeSpeed";
      readonly devices: readonly { readonly layoutId: string; readonly id: number }[];
      readonly toBitsPerS: number;
    }
  | { readonly kind: "readAll"; readonly layoutId: string; readonly id: number }
  | {
      readonly kind: "write";
      readonly layoutId: string;
      readonly id: number;
      readonly address: number;
      readonly raw: number;
      readonly throughTorque: boolean;
    }
  | {
      readonly kind: "restore";
      readonly layoutId: string;
      readonly id: number;
      readonly wanted: ReadonlyMap<number, number>;
      readonly now: ReadonlyMap<number, number>;
    }
  | { readonly kind: "packet"; readonly layoutId: string; readonly bytes: Uint8Array };

/** What came of it. */
export type BusOutcome =
  | { readonly kind: "found"; readonly found: readonly Found[] }
  | { readonly kind: "values"; readonly values: ReadonlyMap<number, number> }
  | { readonly kind: "written"; readonly outcome: WriteOutcome }
  | { readonly kind: "done"; readonly outcome: SetUpOutcome }
  | {
      readonly kind: "answered";
      readonly replies: readonly Uint8Array[];
      readonly noise: readonly Uint8Array[];
      readonly tookUs: number;
    }
  | { readonly kind: "refused"; readonly sentence: string };

/** From the page to one bus. */
export type BusAsk =
  | { readonly kind: "watch"; readonly isWatching: boolean }
  | { readonly kind: "run"; readonly runId: number; readonly run: BusRun }
  | { readonly kind: "endRun" }
  /** Registers of one device, read over and over; null for none. */
  | {
      readonly kind: "watchRegisters";
      readonly watch: {
        readonly layoutId: string;
        readonly id: number;
        readonly addresses: readonly number[];
        readonly everyMs: number;
      } | null;
    };

/** How a joint's device is. */
export interface DeviceState {
  readonly id: number;
  readonly phase: "unknown" | "limp" | "waking" | "held" | "silent";
  /** In ticks; what was asked for last. */
  readonly wanted: number;
  readonly goal: number;
  readonly telemetry: Telemetry;
}

/** How a bus is, a few times a second while somebody watches. */
export interface BusReport {
  readonly boardId: string;
  readonly atUs: number;
  readonly devices: readonly DeviceState[];
  readonly events: readonly WireEvent[];
  /** The watched registers, by address. */
  readonly watched: ReadonlyMap<number, number> | null;
  readonly framesSent: number;
  readonly framesDropped: number;
}

export type BusTold =
  | { readonly kind: "report"; readonly report: BusReport }
  | { readonly kind: "progress"; readonly runId: number; readonly progress: ScanProgress | StepsProgress }
  | { readonly kind: "outcome"; readonly runId: number; readonly outcome: BusOutcome };
