export { writeVcd, writeWaveCsv } from "./vcd";
export { edgesOf, endNs, type WaveChannel, type WaveEdge } from "./waveform";
