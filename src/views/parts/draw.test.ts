import { expect, test, vi } from "vitest";
import { draw, steady, unhurried } from "./draw";

/** As much of an element as is drawn on. */
function drawn() {
  const values = new Map<string, string>();
  const setAttribute = vi.fn((name: string, value: string) => void values.set(name, value));
  const element = { getAttribute: (name: string) => values.get(name) ?? null, setAttribute };
  return { element: element as unknown as Element, setAttribute };
}

test("what is drawn already is not drawn again", () => {
  const { element, setAttribute } = drawn();
  for (const deg of [10, 10, 10, 12, 12, 10]) draw(element, "transform", `rotate(${deg})`);
  expect(setAttribute.mock.calls.map(([, value]) => value)).toEqual(["rotate(10)", "rotate(12)", "rotate(10)"]);
});

test("nothing is drawn on what is not there yet", () => {
  expect(() => draw(null, "d", "M0 0")).not.toThrow();
  expect(() => draw(undefined, "d", "M0 0")).not.toThrow();
});

test("a reading that trembles by less than can be seen stands still; one that creeps is followed step by step", () => {
  const still = steady(0.25);
  expect([10, 10.125, 9.875, 10.1875, 10].map(still)).toEqual([10, 10, 10, 10, 10]);
  expect([10.125, 10.25, 10.375, 10.5, 10.625].map(still)).toEqual([10, 10.25, 10.25, 10.5, 10.5]);
});

test("what is drawn is never further off than that, whatever the readings", () => {
  const still = steady(0.2);
  for (let at = 0; at < 500; at += 1) {
    const value = Math.sin(at / 7) * 3 + Math.sin(at * 1.7) * 0.15;
    expect(Math.abs(still(value) - value)).toBeLessThan(0.2);
  }
});

test("an unknown reading is shown as unknown at once, and the next known one at once", () => {
  const still = steady(0.2);
  expect(still(5)).toBe(5);
  expect(still(Number.NaN)).toBeNaN();
  expect(still(5.05)).toBe(5.05);
});

test("a number that goes on by itself is written once in a while, all of them in the same moment; one that goes far at once", () => {
  const clock = vi.spyOn(performance, "now");
  const [trembling, running] = [unhurried(10), unhurried(Number.POSITIVE_INFINITY)];
  const at = (ms: number, one: number, other: number) => {
    clock.mockReturnValue(ms);
    return [trembling(one), running(other)];
  };
  expect(at(12_100, 50, 0)).toEqual([50, 0]);
  expect(at(12_300, 53, 40)).toEqual([50, 0]);
  expect(at(12_900, 60, 80)).toEqual([60, 0]);
  expect(at(13_300, 58, 90)).toEqual([58, 90]);
  expect(at(13_400, Number.NaN, 91)).toEqual([Number.NaN, 90]);
  clock.mockRestore();
});
