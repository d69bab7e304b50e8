import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { createServer, type Server } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoProject } from "@core/demo";
import { byId } from "@core/project";
import { SimBoard } from "@core/sim";
import { afterAll, expect, test } from "vitest";
import { boardRules } from "../../src/tools/boardRules";
import { LineTalk, sleep } from "../../src/tools/lineTalk";
import { openNodeStream } from "../../src/tools/nodeStream";
import { builtFirmware } from "../fuzz/firmware";
import { freePort } from "./served";

const running: (ChildProcess | Server)[] = [];
afterAll(() => {
  for (const one of running) "kill" in one ? one.kill() : one.close();
});

/** What the rules say of the board at a TCP port, by rule; null for one that it keeps. */
async function judge(port: number, wanted: (rule: string) => boolean): Promise<ReadonlyMap<string, string | null>> {
  const stream = openNodeStream({ kind: "tcp", host: "127.0.0.1", port });
  for (let tries = 0; tries < 200 && stream.life.kind !== "open"; tries += 1) await sleep(25);
  const talk = new LineTalk(stream);
  const board = await talk.greet();
  const verdicts = new Map<string, string | null>();
  for (const { rule, look } of boardRules)
    if (wanted(rule)) verdicts.set(rule, board ? await look(talk, board) : "it does not answer a greeting");
  stream.close();
  return verdicts;
}

async function run(program: string): Promise<number> {
  const port = await freePort();
  running.push(spawn(program, ["--tcp", String(port)], { stdio: "inherit" }));
  return port;
}

const failed = (verdicts: ReadonlyMap<string, string | null>) => [...verdicts].filter(([, wrong]) => wrong !== null);

test("the firmware keeps every rule", async () => {
  const verdicts = await judge(await run(builtFirmware("vantel-board")), () => true);
  expect(failed(verdicts)).toEqual([]);
  expect(verdicts.size).toBe(boardRules.length);
});

test("a simulated board behind TCP keeps every rule", async () => {
  const port = await freePort();
  const fern = byId(demoProject().boards, "fern");
  const server = createServer((socket) => {
    socket.setNoDelay(true);
    const board = new SimBoard(fern, new Map(), (bytes) => socket.write(bytes.slice()));
    const timer = setInterval(() => board.advance(performance.now(), 5), 5);
    socket.on("data", (data) => board.receive(data, performance.now()));
    socket.on("close", () => clearInterval(timer));
    socket.on("error", () => {});
  }).listen(port, "127.0.0.1");
  running.push(server);
  expect(failed(await judge(port, () => true))).toEqual([]);
});

/** For each rule a fault in the firmware that breaks it: what is taken out of its source, and what is put there. */
const faults: readonly (readonly [string, string, string])[] = [
  ["A greeting says", "say_next(' ', about->channels);", "say_next(' ', about->channels + 1u);"],
  [
    "A greeting of any version",
    "if (body.at == body.end) greet();",
    "if (body.at == body.end && number == 2) greet();",
  ],
  ["A line with a wrong check value", "if (!is_hex || stated != crc)", "if (0)"],
  ["A line that is not exactly", "if (cursor->at > begin && *begin == '0') return 0;", ""],
  ["Carriage returns", "if (byte == '\\r') return;", ""],
  ["A line that is too long", "else board.is_too_long = 1;", "else board.length = 0;"],
  [
    "Noise costs",
    "board.length = 0;\n  board.is_too_long = 0;\n}\n\nvoid vb_look",
    "if (!board.length || board.line[0] > 31) board.length = 0;\n  board.is_too_long = 0;\n}\n\nvoid vb_look",
  ],
  ["Numbers go up", "ahead <= HIGHEST_SEQUENCE / 2", "ahead <= HIGHEST_SEQUENCE"],
  [
    "A greeting starts the numbers",
    "board.last_sequence = board.told_sequence = board.in_force = 0;\n  empty(board.has_limits);\n  feed();",
    "empty(board.has_limits);\n  feed();",
  ],
  [
    "A release is obeyed",
    "if (!board.last_sequence || is_after(sequence, board.last_sequence)) board.last_sequence",
    "board.last_sequence",
  ],
  ["Channels and counts", "after_ms >= 100 &&", "after_ms >= 99 &&"],
  ["A channel without limits", "empty(board.has_limits);\n  feed();", "feed();"],
  ["A count outside", "> limits->step) return 0;", "> limits->step + 1u) return 0;"],
  ["Where limits were drawn in", "return has_signal && count >= stands;", "return has_signal;"],
  [
    "A line is taken whole",
    "read_word(&words, count, n);\n    if (!is_possible",
    "read_word(&words, count, n);\n    if (count == 4 && is_possible(n[0], n[1], n[2])) put_in(board.has_limits, (uint8_t)n[0]), board.limits[n[0]].highest = (vb_count)n[2];\n    if (!is_possible",
  ],
  ["A channel that a frame", "VB_LOCK();\n  empty(board.is_told);\n  while", "VB_LOCK();\n  while"],
  ["It says which frame", "if (!board.waiting) board.in_force = board.told_sequence;", ""],
  [
    "Outputs stay",
    "empty(board.has_limits);\n  feed();",
    "empty(board.has_limits);\n  empty(board.is_told);\n  feed();",
  ],
  ["After a silence it releases", "board.was_greeted = 0;\n  }", "}"],
  ["After a silence it holds", "board.has_acted = 1;\n", ""],
  [
    "Every line that is done",
    "  vb_look();\n  if (board.is_too_long)",
    "  vb_look();\n  feed();\n  if (board.is_too_long)",
  ],
];

test("every rule has its fault here", () => {
  for (const { rule } of boardRules)
    expect([rule, faults.filter(([begins]) => rule.startsWith(begins)).length]).toEqual([rule, 1]);
});

test("a board with a fault planted for a rule fails it", async () => {
  const firmware = join(process.cwd(), "firmware");
  const source = readFileSync(join(firmware, "board/board.c"), "utf8");
  const folder = mkdtempSync(join(tmpdir(), "vantel-faults-"));
  const verdicts = await Promise.all(
    faults.map(async ([begins, taken, put], at) => {
      const parts = source.split(taken);
      if (parts.length !== 2) throw new Error(`“${taken}” stands ${parts.length - 1} times in board.c.`);
      const own = join(folder, String(at));
      mkdirSync(own);
      writeFileSync(join(own, "board.c"), parts.join(put));
      const program = join(own, "board");
      const settings = ["-DVB_CHANNELS=64", "-DVB_LINE=1024", "-DVB_COUNT=uint32_t", `-I${firmware}/board`];
      const others = [
        `${firmware}/posix/main.c`,
        `${firmware}/posix/about.c`,
        `${firmware}/posix/pty.c`,
        `${firmware}/posix/loop.c`,
      ];
      execFileSync("cc", ["-std=c99", "-O0", "-w", ...settings, ...others, join(own, "board.c"), "-o", program]);
      return failed(await judge(await run(program), (rule) => rule.startsWith(begins))).map(([rule]) => rule);
    }),
  );
  for (const [at, [begins]] of faults.entries()) expect([begins, verdicts[at]?.length]).toEqual([begins, 1]);
});
