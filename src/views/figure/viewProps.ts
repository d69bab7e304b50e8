import type { Meeting, ReachCloud } from "@core/figure";
import type { Lookout } from "./lookout";
import type { Scene } from "./useScene";

/** What the large picture shows, however it is drawn. */
export interface FigureViewProps {
  readonly scene: Scene;
  readonly lookout: Lookout;
  /** The part that is worked on, drawn with brighter edges. */
  readonly partId: string | null;
  readonly thingId: string | null;
  /** The joint whose travel is drawn as an arc. */
  readonly jointId: string | null;
  readonly meetings: readonly Meeting[];
  readonly cloud: ReachCloud | null;
}
