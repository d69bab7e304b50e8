import type { SurveyAsk, SurveyReport } from "@core/calibrate";
import type { Asked, Command } from "@core/engine";
import type { DeviceMemories } from "@core/files";
import type { ComparedLine, Greeting, LinkHealthReport } from "@core/link";
import type { Project, TakeData } from "@core/project";
import type { Recorded } from "@core/take";
import type { StreamLife } from "@core/wire";
import type { BusAsk, BusTold } from "./links/busMessages";
import type { RemoteAsk, RemoteTold } from "./remote/remoteMessages";
import type { SimulationAsk, TableReport } from "./simulation/simulationMessages";

/** From the page to the bench worker. */
export type ToWorker =
  /** The document. Of its routines those that have changed lie beside it, as texts; `routineIds` names them all, in order. */
  | {
      readonly kind: "project";
      readonly project: Omit<Project, "routines">;
      readonly routines: readonly string[];
      readonly routineIds: readonly string[];
      readonly revision: number;
    }
  | { readonly kind: "take"; readonly take: TakeData }
  /** Lets these routines, and no others, start by their timetables. */
  | { readonly kind: "arm"; readonly routineIds: readonly string[] }
  | { readonly kind: "command"; readonly command: Command }
  /** A snapshot's buffer, handed back to be written again. */
  | { readonly kind: "buffer"; readonly snapshot: Float64Array<ArrayBuffer> }
  /** Does something to what is simulated at the far end of a link. */
  | { readonly kind: "simulation"; readonly boardId: string; readonly ask: SimulationAsk }
  /** Wants to be shown the bench at every tick, also while it rests; or no more. */
  | { readonly kind: "everyTick"; readonly isWanted: boolean }
  /** Asks for the lines that leave for the boards, a few times a second, or for no more of them. */
  | { readonly kind: "watchLines"; readonly isWatching: boolean }
  /** Starts the automatic run on a joint that can be read, or ends the one that runs. */
  | { readonly kind: "survey"; readonly jointId: string; readonly ask: SurveyAsk }
  | { readonly kind: "endSurvey" }
  /** What the simulated devices kept when the page was closed; before the document. */
  | { readonly kind: "memories"; readonly memories: DeviceMemories }
  | { readonly kind: "bus"; readonly boardId: string; readonly ask: BusAsk }
  | { readonly kind: "remote"; readonly ask: RemoteAsk }
  /** Releases everything, hands over what is still to be kept, says so, and ends. */
  | { readonly kind: "part" };

/** How one link is doing. */
export interface LinkReport {
  readonly boardId: string;
  readonly state: "greeting" | "live" | "lost" | "refused";
  /** Whether it hangs on a wire; else its far end is simulated. */
  readonly isReal: boolean;
  /** How its wire is; “open” where the far end is simulated. */
  readonly life: StreamLife["kind"];
  /** Why it is not driven, or not there: empty where all is well. */
  readonly sentence: string;
  /** What it says of itself beside what the project says, line by line. */
  readonly said: readonly ComparedLine[];
  readonly greeting: Greeting | null;
  readonly isPlugged: boolean;
}

/** From the bench worker to the page. */
export type FromWorker =
  | { readonly kind: "snapshot"; readonly snapshot: Float64Array<ArrayBuffer> }
  | { readonly kind: "links"; readonly links: readonly LinkReport[] }
  /** The last line that left for each board, by board id. */
  | {
      readonly kind: "lines";
      readonly lines: Readonly<Record<string, string>>;
      /** How each link did lately, by board id. */
      readonly health: Readonly<Record<string, LinkHealthReport>>;
    }
  /** How the automatic run is doing, a few times a second and at its end. */
  | { readonly kind: "survey"; readonly jointId: string; readonly report: SurveyReport }
  /** What is recorded so far, every few seconds: were the page to die, no more than that is lost. */
  | { readonly kind: "recording"; readonly recorded: Recorded }
  /** A take is ready. */
  | { readonly kind: "recorded"; readonly recorded: Recorded }
  /** A lead's action that only the page can do, or a sentence about one that could not be done. */
  | { readonly kind: "asked"; readonly asked: readonly Asked[] }
  | { readonly kind: "bus"; readonly boardId: string; readonly told: BusTold }
  /** Something that a person should know of a board. */
  | { readonly kind: "news"; readonly sentence: string; readonly isBad: boolean }
  /** What is to be told of what comes from afar. */
  | { readonly kind: "remote"; readonly told: RemoteTold }
  /** What lies on the table of a simulated bus that is watched. */
  | { readonly kind: "table"; readonly report: TableReport }
  /** What simulated devices keep without supply has changed. */
  | { readonly kind: "memories"; readonly memories: DeviceMemories }
  /** Everything is released and handed over: the worker has ended. */
  | { readonly kind: "parted" }
  /** A command could not be done; the sentence says why. */
  | { readonly kind: "refused"; readonly sentence: string };
