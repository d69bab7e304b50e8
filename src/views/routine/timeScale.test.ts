import { expect, test } from "vitest";
import { endOf, moments, momentText, moved, msAt, wholeScale, xOf, zoomed } from "./timeScale";

test("all of ten seconds lies on the width, with a little room at the end", () => {
  const scale = wholeScale(10_000, 590);
  expect(xOf(scale, 10_000)).toBeCloseTo(580.2, 1);
  expect(endOf(scale)).toBeCloseTo(10_169.5, 1);
});

test("zooming keeps what is under the pointer where it is, and never shows more than the whole", () => {
  const whole = wholeScale(10_000, 590);
  const near = zoomed(whole, 4, 295, 10_000);
  expect(msAt(near, 295)).toBeCloseTo(msAt(whole, 295), 9);
  expect(near.msPerPx).toBeCloseTo(whole.msPerPx / 4, 9);
  expect(zoomed(near, 0.01, 100, 10_000)).toEqual(whole);
  expect(moved(near, 1e9, 10_000).fromMs).toBeCloseTo(endOf(whole) - near.msPerPx * 590, 6);
});

test("an hour is marked every five minutes on 900 px, a second every 100 ms", () => {
  expect(moments(wholeScale(3_600_000, 900), 60).slice(0, 3)).toEqual([0, 300_000, 600_000]);
  expect(moments({ fromMs: 950, msPerPx: 1, widthPx: 300 }, 60)).toEqual([1000, 1100, 1200]);
  expect([0, 1500, 250, 61_000, 125_500].map(momentText)).toEqual(["0 s", "1.5 s", "0.25 s", "1:01", "2:05.5"]);
});
