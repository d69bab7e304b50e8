import { expect, test } from "vitest";
import { readBytes } from "./readBytes";

test("bytes are read as people write them", () => {
  expect(readBytes("5A 0xA7, 3;90. 0b101")).toEqual({ ok: true, value: [0x5a, 0xa7, 3, 90, 5] });
  expect(readBytes("5AA705")).toEqual({ ok: true, value: [0x5a, 0xa7, 5] });
  expect(readBytes("  ")).toEqual({ ok: true, value: [] });
});

test.each(["5G", "300.", "0b102", "ABC"])("“%s” is told, with what would be right", (text) => {
  expect(readBytes(text)).toMatchObject({ ok: false, problem: expect.stringContaining("is no byte") });
});
