/** A stretch of time in which something takes the moves' place, with the targets at its ends; null where it is faded there. */
export interface Cover {
  readonly fromMs: number;
  readonly toMs: number;
  readonly first: number | null;
  readonly last: number | null;
}
