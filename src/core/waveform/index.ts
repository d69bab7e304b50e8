export { writeVcd, writeWaveCsv } from "./vcd";
export { edgesOf, endNs, nsOf, type WaveChannel, type WaveEdge } from "./waveform";
