/** One channel of a waveform: a pulse at the start of every frame. Times are whole nanoseconds. */
export interface WaveChannel {
  readonly label: string;
  readonly pulseNs: number;
  readonly periodNs: number;
}

/** A moment at which some channel changes. */
export interface WaveEdge {
  readonly atNs: number;
  /** The place of the channel in the waveform. */
  readonly channel: number;
  readonly level: 0 | 1;
}

export const nsOf = (us: number): number => Math.round(us * 1000);

/** All edges of some channels over a number of their frames, in time order; channels with no pulse stay low. */
export function edgesOf(channels: readonly WaveChannel[], frames: number): readonly WaveEdge[] {
  const edges: WaveEdge[] = [];
  for (const [channel, { pulseNs, periodNs }] of channels.entries()) {
    if (!(pulseNs > 0)) continue;
    for (let frame = 0; frame < frames; frame += 1) {
      edges.push({ atNs: frame * periodNs, channel, level: 1 });
      edges.push({ atNs: frame * periodNs + Math.min(pulseNs, periodNs), channel, level: 0 });
    }
  }
  // At one moment a fall comes before a rise, so that a pulse as long as its frame still shows its edges.
  return edges.sort((a, b) => a.atNs - b.atNs || a.level - b.level || a.channel - b.channel);
}

/** When the last frame of the slowest channel is over, in ns. */
export const endNs = (channels: readonly WaveChannel[], frames: number): number =>
  Math.max(0, ...channels.map((channel) => channel.periodNs * frames));
