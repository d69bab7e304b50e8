import { edgesOf, endNs, type WaveChannel } from "./waveform";

const timescales = [
  { text: "1 ms", ns: 1_000_000 },
  { text: "100 us", ns: 100_000 },
  { text: "10 us", ns: 10_000 },
  { text: "1 us", ns: 1000 },
  { text: "100 ns", ns: 100 },
  { text: "10 ns", ns: 10 },
  { text: "1 ns", ns: 1 },
] as const;

/** Identifier codes of VCD are printable characters, "!" to "~"; the place in base 94. */
function codeOf(place: number): string {
  const code = String.fromCharCode(33 + (place % 94));
  return place < 94 ? code : codeOf(Math.floor(place / 94) - 1) + code;
}

/** References for all channels, no two alike: a name that is taken gets a number behind it. The labels themselves stand in comments. */
function namesOf(channels: readonly WaveChannel[]): readonly string[] {
  const taken = new Set<string>();
  return channels.map(({ label }, place) => {
    const plain = nameOf(label, place);
    let name = plain;
    for (let number = 2; taken.has(name); number += 1) name = `${plain}_${number}`;
    taken.add(name);
    return name;
  });
}

/** What would end a comment of a dump is written apart. */
const commentOf = (label: string) => label.replace(/\$end/g, "$ end").replace(/\s+/g, " ");

/** A reference of VCD has no blanks and begins with a letter. */
const nameOf = (label: string, place: number) => {
  const plain = label
    .normalize("NFD")
    .replace(/[^A-Za-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "");
  return /^[A-Za-z]/.test(plain) ? plain : `ch${place}_${plain}`;
};

/**
 * A waveform as a value change dump (IEEE 1364, four-state VCD): one wire per channel, over whole frames.
 * The timescale is the coarsest of 1 ns … 1 ms in which every edge is a whole number, so that nothing is rounded.
 */
export function writeVcd(channels: readonly WaveChannel[], frames: number): string {
  const edges = edgesOf(channels, frames);
  const lastNs = endNs(channels, frames);
  const names = namesOf(channels);
  const scale =
    timescales.find(({ ns }) => lastNs % ns === 0 && edges.every((edge) => edge.atNs % ns === 0)) ?? timescales[6];
  const lines = [
    "$comment Servo pulses written by Vantel $end",
    `$timescale ${scale.text} $end`,
    "$scope module board $end",
    ...channels.flatMap(({ label }, place) => [
      ...(names[place] === label ? [] : [`$comment ${names[place]} is ${commentOf(label)} $end`]),
      `$var wire 1 ${codeOf(place)} ${names[place]} $end`,
    ]),
    "$upscope $end",
    "$enddefinitions $end",
  ];
  const atStart = new Set(edges.filter((edge) => edge.atNs === 0 && edge.level === 1).map((edge) => edge.channel));
  lines.push("#0", "$dumpvars", ...channels.map((_, place) => `${atStart.has(place) ? 1 : 0}${codeOf(place)}`), "$end");
  let atNs = 0;
  for (const edge of edges) {
    if (edge.atNs === 0) continue;
    if (edge.atNs !== atNs) {
      atNs = edge.atNs;
      lines.push(`#${atNs / scale.ns}`);
    }
    lines.push(`${edge.level}${codeOf(edge.channel)}`);
  }
  if (atNs !== lastNs) lines.push(`#${lastNs / scale.ns}`);
  return `${lines.join("\n")}\n`;
}

/** A waveform as CSV (RFC 4180): one line per edge, with the time in µs and the level of every channel after it. */
export function writeWaveCsv(channels: readonly WaveChannel[], frames: number): string {
  const levels = channels.map(() => 0);
  const rows = [["time_us", ...channels.map((channel) => quoted(channel.label))].join(",")];
  const edges = edgesOf(channels, frames);
  for (const [at, edge] of edges.entries()) {
    levels[edge.channel] = edge.level;
    if (edges[at + 1]?.atNs !== edge.atNs) rows.push([edge.atNs / 1000, ...levels].join(","));
  }
  return `${rows.join("\r\n")}\r\n`;
}

const quoted = (text: string) => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
