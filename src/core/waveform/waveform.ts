/** A channel of a waveform: one pulse in every frame. In µs as they are, not rounded: edges are rounded, each for itself. */
export interface WaveChannel {
  readonly label: string;
  readonly pulseUs: number;
  readonly periodUs: number;
  /** When the pulse begins, counted from the beginning of its frame; a timer may put it in the middle or at the end. */
  readonly riseUs: number;
}

/** A moment at which some channel changes, in whole nanoseconds. */
export interface WaveEdge {
  readonly atNs: number;
  /** The place of the channel in the waveform. */
  readonly channel: number;
  readonly level: 0 | 1;
}

const nsOf = (us: number): number => Math.round(us * 1000);

/**
 * All edges of some channels in time order, until the given number of the slowest one's frames is over; channels with no pulse stay low. A
 * pulse that reaches over the beginning of a frame is high when the waveform begins.
 */
export function edgesOf(channels: readonly WaveChannel[], frames: number): readonly WaveEdge[] {
  const lastNs = endNs(channels, frames);
  const edges: WaveEdge[] = [];
  for (const [channel, { pulseUs, periodUs, riseUs }] of channels.entries()) {
    if (!(pulseUs > 0)) continue;
    const highUs = Math.min(pulseUs, periodUs);
    // The frame before reaches in where its pulse ends after it.
    for (let frame = -1; nsOf(frame * periodUs + riseUs) < lastNs; frame += 1) {
      const [riseNs, fallNs] = [nsOf(frame * periodUs + riseUs), nsOf(frame * periodUs + riseUs + highUs)];
      if (fallNs <= 0) continue;
      edges.push({ atNs: Math.max(0, riseNs), channel, level: 1 });
      if (fallNs <= lastNs) edges.push({ atNs: fallNs, channel, level: 0 });
    }
  }
  // At one moment a fall comes before a rise, so that a pulse as long as its frame still shows its edges.
  return edges.sort((a, b) => a.atNs - b.atNs || a.level - b.level || a.channel - b.channel);
}

/** When the last frame of the slowest channel is over, in ns. */
export const endNs = (channels: readonly WaveChannel[], frames: number): number =>
  nsOf(Math.max(0, ...channels.map((channel) => channel.periodUs * frames)));
