import { expect, test } from "vitest";
import { Bucket, ClockSync, codeForMs, DoorLog, Pairing } from ".";

const codes = (...digits: string[]) => new Pairing(() => digits.shift() ?? "999999");

test("a code lets one device in, once", () => {
  const pairing = codes("123456");
  pairing.begin(0);
  expect(pairing.guess("123456", "a", 1000)).toBe("in");
  expect(pairing.guess("123456", "b", 2000)).toBe("worn out");
});

test("a code wears out with time, and another one takes its place", () => {
  const pairing = codes("111111", "222222");
  pairing.begin(0);
  expect(pairing.codeAt(codeForMs - 1)?.digits).toBe("111111");
  expect(pairing.guess("111111", "a", codeForMs)).toBe("worn out");
  pairing.begin(codeForMs + 1);
  expect(pairing.guess("111111", "a", codeForMs + 2)).toBe("wrong");
  expect(pairing.guess("222222", "a", codeForMs + 3)).toBe("in");
});

test("whoever guesses is slowed down; ten wrong guesses from wherever wear a code out", () => {
  const pairing = codes("123456");
  pairing.begin(0);
  expect(Array.from({ length: 8 }, (_, at) => pairing.guess("000000", "a", at))).toEqual([
    ...Array(6).fill("wrong"),
    "too many",
    "too many",
  ]);
  expect(Array.from({ length: 4 }, (_, at) => pairing.guess("000000", "b", 100 + at))).toEqual([
    "wrong",
    "wrong",
    "wrong",
    "worn out",
  ]);
  expect(pairing.guess("123456", "c", 200)).toBe("worn out");
});

test("a million guesses from a thousand addresses in a minute are thirty and what a minute gives", () => {
  const pairing = codes(...Array(100_000).fill("123456"));
  let looked = 0;
  for (let at = 0; at < 1_000_000; at += 1) {
    const nowMs = (at * 60_000) / 1_000_000;
    if (!pairing.codeAt(nowMs)) pairing.begin(nowMs);
    const guess = pairing.guess("654321", `10.0.0.${at % 1000}`, nowMs);
    if (guess !== "too many") looked += 1;
  }
  expect(looked).toBeLessThanOrEqual(60);
});

test("a bucket lets through what it holds, and then so many a second", () => {
  const bucket = new Bucket(10, 3);
  expect([0, 0, 0, 0, 50, 100, 199, 200].map((ms) => bucket.take(ms))).toEqual([
    true,
    true,
    true,
    false,
    false,
    true,
    false,
    true,
  ]);
  // A clock that is set back fills nothing.
  expect(bucket.take(0)).toBe(false);
});

test("a far clock is known as well as the quickest answer was quick", () => {
  const clock = new ClockSync();
  expect(clock.toOurs(5000)).toBeNaN();
  // It is 4000 ms ahead. The first answer took 100 ms there and 300 back, the second 5 and 5.
  clock.add(1000, 5100, 1400);
  expect(clock.toOurs(6000)).toBe(2100);
  clock.add(2000, 6005, 2010);
  expect(clock.toOurs(6000)).toBe(2000);
  clock.add(3000, 7200, 3300);
  expect(clock.toOurs(8000)).toBe(4000);
  expect(clock.roundTripMs).toBe(10);
  clock.add(5000, Number.NaN, 5001);
  clock.add(5000, 9000, 4990);
  expect(clock.roundTripMs).toBe(10);
});

test("a clock that was set, or slept, is known anew at once", () => {
  const clock = new ClockSync();
  clock.add(1000, 5001, 1002);
  expect(clock.toOurs(6000)).toBe(2000);
  // It slept for a minute; the answer took longer than any before.
  clock.add(70_000, 14_010, 70_020);
  expect(clock.toOurs(14_010)).toBe(70_010);
});

test("what happens again and again is one entry that counts, so that a flood fills no log", () => {
  const log = new DoorLog();
  for (let at = 0; at < 100_000; at += 1) log.add(at, `device ${at % 3}`, "refused", "It said what no pad says.");
  expect(log.entries.map(({ who, times }) => [who, times])).toEqual([
    ["device 0", 33_334],
    ["device 1", 33_333],
    ["device 2", 33_333],
  ]);
  // Nor does one who has a new name each time.
  for (let at = 0; at < 1000; at += 1) log.add(200_000 + at, `address ${at}`, "refused", "It was not let in.");
  expect(log.entries.length).toBeLessThan(60);
  expect(log.entries.at(-1)?.who).toBe("others");
  for (let at = 0; at < 1000; at += 1) log.add(400_000 + at, `pad ${at}`, "did", "Watch");
  expect(log.entries).toHaveLength(300);
});
