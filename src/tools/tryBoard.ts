import { Command } from "commander";
import { letGoAtTheEnd } from "../server/ending";
import { boardRules } from "./boardRules";
import { LineTalk, sleep } from "./lineTalk";
import { openNodeStream, wireIn } from "./nodeStream";

const exits = { passes: 0, usage: 1, fails: 2, wire: 4, interrupted: 130 } as const;
const openWithinMs = 6000;
/** Many boards start anew when their port is opened. */
const greetTries = 10;

async function tryBoard(port: string): Promise<number> {
  const wire = wireIn(port);
  if (!wire) return fail(exits.usage, `“${port}” is no wire. Write /dev/ttyUSB0, /dev/ttyUSB0@57600 or tcp:host:port.`);
  const stream = openNodeStream(wire);
  const untilMs = performance.now() + openWithinMs;
  while (stream.life.kind === "opening" && performance.now() < untilMs) await sleep(20);
  if (stream.life.kind !== "open")
    return fail(exits.wire, stream.life.kind === "lost" ? stream.life.sentence : `${port} does not open.`);
  const talk = new LineTalk(stream);
  const letGo = async () => {
    talk.sayLast("R 1");
    await sleep(100);
    stream.close();
    await sleep(100);
  };
  letGoAtTheEnd(letGo, exits.interrupted);
  let board = await talk.greet();
  for (let tries = 1; !board && tries < greetTries; tries += 1) board = await talk.greet();
  if (!board) return fail(exits.wire, `Nobody answers a greeting on ${port}. Is it the port, and is its speed right?`);
  console.log(
    `${board.name} on ${port}: ${board.channels} channels in ${board.groups.length} groups, lines of ${board.longestLine} bytes.`,
  );
  let failures = 0;
  for (const { rule, look } of boardRules) {
    const wrong = await look(talk, board);
    if (wrong) failures += 1;
    console.log(wrong ? `  FAILS  ${rule}\n         ${wrong}` : `  keeps  ${rule}`);
  }
  await letGo();
  console.log(
    failures === 0
      ? `All ${boardRules.length} rules are kept.`
      : `${failures} of ${boardRules.length} rules are not kept.`,
  );
  return failures === 0 ? exits.passes : exits.fails;
}

function fail(code: number, sentence: string): number {
  console.error(sentence);
  return code;
}

const program = new Command("bin/try-board")
  .description(
    "Holds any board against every rule of docs/link-protocol.md that can be seen from the line, and prints rule by rule what it did.",
  )
  .argument("<port>", "/dev/ttyUSB0, /dev/ttyUSB0@57600, or tcp:host:port")
  .option("--unplugged", "no servo is plugged in: channel 0 is driven to the middle of its counts, and not gently")
  .exitOverride((error) => process.exit(error.exitCode === 0 ? 0 : exits.usage));

program.action(async (port: string) => {
  const { unplugged } = program.opts<{ unplugged?: boolean }>();
  process.exit(
    unplugged
      ? await tryBoard(port)
      : fail(
          exits.usage,
          "This drives channel 0 without care for what hangs on it. Pull the servos' plugs out, then say --unplugged.",
        ),
  );
});
await program.parseAsync();
