import { checkOf } from "./paperBoard";

/** Lines of every form, good and spoilt, with numbers about what matters: channels and counts at the edges, limits, sequence numbers that turn over. */
export function lineOf(random: () => number, sequence: number): string {
  const upTo = (most: number) => Math.floor(random() * most);
  const one = <T>(list: readonly T[]): T => list[upTo(list.length)] as T;
  const number = () =>
    one([0, 1, 3, 11, 12, 300, 600, 610, 612, 630, 8191, 8192, 65_535, 4_294_967_295, 4_294_967_296]);
  const channel = () => (random() < 0.97 ? upTo(12) : one([12, 99, 4_294_967_295]));
  const words = (make: () => string) => Array.from({ length: upTo(5) }, make).join(" ");
  const count = () => (random() < 0.9 ? 560 + upTo(100) : number());
  const frame = () => `S ${sequence} ${words(() => `${channel()}:${count()}`)}`.trimEnd();
  const limits = () =>
    `L ${sequence} ${words(() => `${channel()}:${540 + upTo(40)}:${610 + upTo(60)}:${upTo(90)}`)}`.trimEnd();
  const good = one([
    frame,
    frame,
    frame,
    frame,
    limits,
    limits,
    () => `L ${sequence} ${words(() => `${channel()}:${number()}:${number()}:${number()}`)}`.trimEnd(),
    () => `W ${sequence} ${one([99, 100, 500, 60_000, 60_001])} ${one(["release", "hold", "Hold"])}`,
    () => `R ${sequence}`,
    () => (random() < 0.3 ? "V 2" : frame()),
    () =>
      one([
        "V 1",
        "V",
        "V 02",
        `V 2 ${number()}`,
        `R ${sequence} 1`,
        `S 0${sequence} 1:600`,
        `S ${sequence}  1:600`,
        "vane=3",
        "",
      ]),
  ])();
  const line = `${good}#${checkOf(good)}`;
  const at = upTo(line.length);
  switch (upTo(16)) {
    case 0:
      return line.slice(0, at) + String.fromCharCode(33 + upTo(90)) + line.slice(at + 1);
    case 1:
      return line.slice(0, at) + line.slice(at + 1);
    case 2:
      return one([good, line.toLowerCase(), `${good}#${checkOf(good).toLowerCase()}`, `\r${line}\r`, `${line} `]);
    default:
      return line;
  }
}

/** A conversation of so many lines with a board: when each comes, and whether all channels began a frame just before it. */
export function* conversation(random: () => number, lines: number) {
  let nowMs = 0;
  let sequence = 1;
  for (let at = 0; at < lines; at += 1) {
    const chance = random();
    sequence = chance < 0.9 ? (sequence % 65_535) + 1 : chance < 0.95 ? 1 + Math.floor(random() * 65_535) : sequence;
    const line = lineOf(random, sequence);
    nowMs += random() < 0.02 ? 700 : 1;
    const beginsFrames = random() < 0.2;
    if (beginsFrames) nowMs += 21;
    yield { at, line, nowMs, beginsFrames };
  }
}
