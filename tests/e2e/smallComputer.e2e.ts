import { type ChildProcess, spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, expect, test } from "vitest";
import { LineTalk, sleep } from "../../src/tools/lineTalk";
import { openNodeStream } from "../../src/tools/nodeStream";
import { builtFirmware } from "../fuzz/firmware";
import { freePort } from "./served";

let program: ChildProcess | null = null;
afterEach(() => {
  program?.kill();
  program = null;
});

async function start(words: readonly string[]) {
  const port = await freePort();
  program = spawn(builtFirmware("vantel-linux"), ["--tcp", String(port), ...words], { stdio: "inherit" });
  const stream = openNodeStream({ kind: "tcp", host: "127.0.0.1", port });
  for (let tries = 0; tries < 200 && stream.life.kind !== "open"; tries += 1) await sleep(25);
  return { talk: new LineTalk(stream), stream };
}

test("the kernel’s PWM channels: a count is a microsecond, written before the next frame; a release is a pulse of nothing", async () => {
  const root = mkdtempSync(join(tmpdir(), "vantel-pwm-"));
  for (const channel of [0, 3]) {
    mkdirSync(join(root, "pwmchip1", `pwm${channel}`), { recursive: true });
    for (const file of ["period", "duty_cycle", "enable"])
      writeFileSync(join(root, "pwmchip1", `pwm${channel}`, file), "0");
  }
  const at = (channel: number, file: string) =>
    Number(readFileSync(join(root, "pwmchip1", `pwm${channel}`, file), "utf8").split("\n")[0]);
  const { talk, stream } = await start(["--root", root, "--pwm", "1:0", "--pwm", "1:3"]);
  const greeting = await talk.greet();
  expect(greeting).toMatchObject({
    channels: 2,
    groups: [{ periodNs: 20_000_000, highestCount: 20_000, atHighest: 20_000_000 }],
  });
  expect([at(0, "period"), at(0, "enable"), at(3, "duty_cycle")]).toEqual([20_000_000, 1, 0]);
  await talk.ask("L 1 0:500:2500:200 1:500:2500:200");
  expect(await talk.ask("S 2 1:1500")).toMatch(/^A 2/);
  await sleep(80);
  expect([at(0, "duty_cycle"), at(3, "duty_cycle")]).toEqual([0, 1_500_000]);
  await talk.ask("S 3 0:500 1:1600");
  await sleep(80);
  expect([at(0, "duty_cycle"), at(3, "duty_cycle")]).toEqual([500_000, 1_600_000]);
  await talk.ask("R 4");
  await sleep(80);
  expect([at(0, "duty_cycle"), at(3, "duty_cycle")]).toEqual([0, 0]);
  stream.close();
});

test("a host that falls silent, and a program that is ended, leave no pulse on", async () => {
  const root = mkdtempSync(join(tmpdir(), "vantel-pwm-"));
  mkdirSync(join(root, "pwmchip0", "pwm0"), { recursive: true });
  for (const file of ["period", "duty_cycle", "enable"]) writeFileSync(join(root, "pwmchip0/pwm0", file), "0");
  const duty = () => Number(readFileSync(join(root, "pwmchip0/pwm0/duty_cycle"), "utf8").split("\n")[0]);
  const { talk, stream } = await start(["--root", root, "--pwm", "0:0", "--silence", "300", "release"]);
  const drive = async () => {
    await talk.greet();
    await talk.ask("L 1 0:500:2500:2000");
    await talk.ask("S 2 0:1500");
    await sleep(80);
    expect(duty()).toBe(1_500_000);
  };
  await drive();
  await sleep(700);
  expect(duty()).toBe(0);
  await drive();
  program?.kill("SIGTERM");
  await sleep(200);
  expect(duty()).toBe(0);
  stream.close();
});

test("a pulse chip is told by its numbers: asleep, prescaler, awake; then four bytes a channel, and only those that change", async () => {
  const bus = join(mkdtempSync(join(tmpdir(), "vantel-i2c-")), "bus");
  writeFileSync(bus, "");
  const { talk, stream } = await start([
    ...["--i2c", bus, "--address", "17", "--channels", "4", "--oscillator", "20000000", "--bits", "12"],
    ...["--mode-register", "1", "--sleeps", "2", "--runs", "3", "--prescale-register", "9", "--first-register", "32"],
  ]);
  const written = () => [...readFileSync(bus)];
  // 20 MHz / (4096 × 50 Hz) is 97.7: a prescale of 97, and a frame of 98 × 4096 / 20 MHz = 20.0704 ms.
  expect(await talk.greet()).toMatchObject({ channels: 4, groups: [{ periodNs: 20_070_400, highestCount: 4095 }] });
  const silent = [32, 36, 40, 44].flatMap((register) => [register, 0, 0, 0, 0]);
  expect(written()).toEqual([1, 2, 9, 97, 1, 3, ...silent]);
  await talk.ask("L 1 2:100:500:400");
  await talk.ask("S 2 2:306");
  await sleep(80);
  // 306 is 1 × 256 + 50.
  expect(written().slice(6 + silent.length)).toEqual([40, 0, 0, 50, 1]);
  stream.close();
});

test("single pins are timed by software: edges of the right length in the order of their channels, and how late they are is said", async () => {
  const root = mkdtempSync(join(tmpdir(), "vantel-gpio-"));
  for (const pin of [5, 6]) {
    mkdirSync(join(root, `gpio${pin}`));
    writeFileSync(join(root, `gpio${pin}`, "value"), "0");
  }
  const level = (pin: number) => readFileSync(join(root, `gpio${pin}`, "value"), "latin1");
  const port = await freePort();
  program = spawn(builtFirmware("vantel-linux"), [
    "--tcp",
    String(port),
    "--gpio",
    root,
    "--pin",
    "5",
    "--pin",
    "6",
    "--processor",
    "0",
  ]);
  const stream = openNodeStream({ kind: "tcp", host: "127.0.0.1", port });
  for (let tries = 0; tries < 200 && stream.life.kind !== "open"; tries += 1) await sleep(25);
  const talk = new LineTalk(stream);
  let heard = "";
  const toTalk = stream.onBytes;
  stream.onBytes = (bytes) => {
    heard += String.fromCharCode(...bytes);
    toTalk(bytes);
  };
  await talk.greet();
  await talk.ask("L 1 0:500:2500:2000 1:500:2500:2000");
  await talk.ask("W 2 60000 hold");
  await talk.ask("S 3 1:2500");
  const seen = new Map<string, number>();
  for (const endMs = performance.now() + 2500; performance.now() < endMs; await sleep(0)) {
    const levels = level(5) + level(6);
    seen.set(levels, (seen.get(levels) ?? 0) + 1);
  }
  // An eighth of the time high, and the other pin never.
  const share = (seen.get("01") ?? 0) / [...seen.values()].reduce((sum, count) => sum + count, 0);
  expect([...seen.keys()].sort()).toEqual(["00", "01"]);
  expect(share).toBeGreaterThan(0.05);
  expect(share).toBeLessThan(0.25);
  expect(heard).toMatch(/late\.median=\d+\nlate\.99=\d+\n/);
  await talk.ask("R 4");
  await sleep(80);
  expect(level(6)).toBe("0");
  stream.close();
});
