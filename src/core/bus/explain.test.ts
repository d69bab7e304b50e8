import type { Layout } from "@core/project";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { askedBy, explain, heron, kestrel, usualChecks } from ".";
import { checkSteps } from "./checkSteps";
import { dissect } from "./dissect";
import { countedWords, errorsIn } from "./explain";

const bytesOf = (hex: string) => Uint8Array.from(hex.split(" "), (byte) => Number.parseInt(byte, 16));
/** The spans as a table: which bytes, what they are called, what they say; a `!` before what is wrong. */
const table = (layout: Layout, direction: "request" | "reply", hex: string, askedHex?: string) =>
  explain(layout, direction, bytesOf(hex), askedHex ? askedBy(layout, bytesOf(askedHex)) : null).spans.map(
    ({ from, to, label, meaning, isWrong }) => `${from}–${to} ${label}: ${isWrong ? "!" : ""}${meaning}`,
  );
const sentence = (layout: Layout, direction: "request" | "reply", hex: string) =>
  explain(layout, direction, hex === "" ? [] : bytesOf(hex)).sentence;

// 05 + 05 + 11 + 15 + 02 = 0x32; all bits turned over: 0xCD.
const readGoal = "5A A7 05 05 11 15 02 CD";
// 05 + 05 + 00 + 00 + 02 = 0x0C; turned over: 0xF3.
const goalIs2 = "5A A7 05 05 00 00 02 F3";

describe("every byte in words", () => {
  test("a request to read the goal position of a Kestrel", () => {
    expect(table(kestrel, "request", readGoal)).toEqual([
      "0–2 header: Here a request begins.",
      "2–3 length: 5 bytes: id, operation, parameters, check.",
      "3–4 id: To device 5.",
      "4–5 operation: 11: read.",
      "5–6 address: 21: Goal position.",
      "6–7 count: 2 bytes.",
      "7–8 check: CD, as the bytes come to.",
    ]);
    expect(sentence(kestrel, "request", readGoal)).toBe("A request to device 5: read.");
  });

  test("its reply says nothing of what was asked: with the request beside it, the register is known", () => {
    expect(table(kestrel, "reply", goalIs2, readGoal).slice(2)).toEqual([
      "3–4 id: From device 5.",
      "4–5 error: No trouble.",
      "5–7 Goal position: 2: 0.6°",
      "7–8 check: F3, as the bytes come to.",
    ]);
    expect(table(kestrel, "reply", goalIs2)[4]).toBe("5–7 parameters: 00 02");
  });

  test("trouble is told by its bits: bit 5 is the overload", () => {
    // 05 + 05 + 20 + 00 + 02 = 0x2C, turned over 0xD3.
    const hex = "5A A7 05 05 20 00 02 D3";
    expect(table(kestrel, "reply", hex, readGoal)[3]).toBe("4–5 error: !Trouble: overload.");
    expect(sentence(kestrel, "reply", hex)).toBe("A reply of device 5, which tells of trouble: overload.");
  });

  test("a group write: for each device its id and its goal", () => {
    // Two devices, at 512 and 511 ticks; a tick is 300° / 1024, and the high byte comes first. The check is 255 less the low byte of the sum.
    const body = [0x0b, 0xff, 0x18, 0x15, 0x02, 0x01, 0x02, 0x00, 0x02, 0x01, 0xff];
    const check = 255 - (body.reduce((sum, byte) => sum + byte, 0) % 256);
    const { spans, sentence: said } = explain(kestrel, "request", [0x5a, 0xa7, ...body, check]);
    expect(said).toBe("A request to all devices: write to many.");
    expect(spans.slice(2).map(({ label, meaning }) => `${label}: ${meaning}`)).toEqual([
      "id: To all devices at once; none of them answers.",
      "operation: 18: write to many.",
      "address: 21: Goal position.",
      "count: 2 bytes.",
      "id: Device 1.",
      "Goal position: 512: 150.0°",
      "id: Device 2.",
      "Goal position: 511: 149.7°",
      `check: ${check.toString(16).toUpperCase()}, as the bytes come to.`,
    ]);
  });

  test("an address in the middle of nowhere, and a register cut in two", () => {
    // A Heron’s goal has four bytes; two of them are no goal.
    const spans = table(heron, "request", "E6 9C 05 03 04 00 44 00 00 02 14 C7").slice(4, 7);
    expect(spans).toEqual([
      "6–8 address: 68: Goal position.",
      "8–9 data: At address 68: 0.",
      "9–10 data: At address 69: 2.",
    ]);
    // 05 + 05 + 11 + 28 + 02 = 0x45, turned over 0xBA. At 40 a Kestrel has nothing.
    expect(table(kestrel, "request", "5A A7 05 05 11 28 02 BA")[4]).toBe("5–6 address: !40: no register begins here.");
  });
});

describe("what is wrong, and with which number", () => {
  test.each([
    ["", "There are no bytes yet."],
    ["5A", "The packet is not whole: it ends within its header."],
    ["5A A7 05 05 11", "The packet is not whole: more bytes belong to it."],
    ["A5 A7 05 05 11 15 02 CD", "A request of Kestrel begins with 5A A7."],
    ["5A A7 05 05 11 15 02 CE", "The check is wrong, so a device would say nothing at all."],
    [
      "5A A7 01 05 11 15 02 CD",
      "The length says 1, and at least 3 would be right: it counts id, operation, parameters, check.",
    ],
  ])("%s", (hex, said) => expect(sentence(kestrel, "request", hex)).toBe(said));

  test("a check that is off by one says both numbers, and that a device keeps silent", () => {
    const spans = explain(kestrel, "request", bytesOf("5A A7 05 05 11 15 02 CE")).spans;
    expect(spans.at(-1)).toMatchObject({ field: "check", from: 7, to: 8, isWrong: true });
    expect(spans.at(-1)?.meaning).toBe("It says CE; the bytes come to CD. A device keeps silent about such a packet.");
  });

  test("bytes after the end are no part of it; an operation that nobody has is named by its number", () => {
    expect(table(kestrel, "request", `${readGoal} 00 00`).at(-1)).toBe(
      "8–10 beyond: !The packet ended before these bytes.",
    );
    // 03 + 05 + 77 = 0x7F, turned over 0x80.
    expect(table(kestrel, "request", "5A A7 03 05 77 80")[3]).toBe("4–5 operation: !Kestrel has no operation 77.");
    expect(sentence(kestrel, "request", "5A A7 03 05 77 80")).toBe("A request to device 5: an operation nobody knows.");
  });

  test("a bit that the manual does not name is told by its number; no bits are no trouble", () => {
    expect(errorsIn(kestrel, 0)).toEqual([]);
    expect(errorsIn({ ...kestrel, errorBits: [] }, 0b1000_0001)).toEqual(["bit 0", "bit 7"]);
  });

  test("what the length counts is said with what is added or taken away", () => {
    const more = { ...kestrel, length: { ...kestrel.length, counts: ["parameters"], plus: 2 } } as Layout;
    expect(countedWords(more, "request")).toBe("parameters, and 2");
    expect(countedWords({ ...more, length: { ...more.length, plus: -1 } }, "request")).toBe("parameters, less 1");
  });
});

describe("the check on paper", () => {
  const working = (layout: Layout, hex: string) => checkSteps(layout, dissect(layout, "request", bytesOf(hex)));

  test("a sum goes byte by byte, and its bits are turned over at last", () => {
    const { steps, endings, value, digits } = working(kestrel, readGoal);
    expect(steps.map(({ words }) => words)).toEqual([
      "0x00 + 0x05 = 0x05",
      "0x05 + 0x05 = 0x0A",
      "0x0A + 0x11 = 0x1B",
      "0x1B + 0x15 = 0x30",
      "0x30 + 0x02 = 0x32",
    ]);
    expect(endings).toEqual(["all bits turned over: 0x32 becomes 0xCD"]);
    expect([value, digits]).toEqual([0xcd, 2]);
  });

  test("what goes above eight bits is left out, and said so", () => {
    // 05 + FF = 0x104.
    const { steps } = working(kestrel, "5A A7 05 FF 11 15 02 CD");
    expect(steps[1]?.words).toBe("0x05 + 0xFF = 0x04 (0x104 without what is above 8 bits)");
  });

  test("a negated sum and a plain xor", () => {
    const with_ = (kind: "sum" | "xor", ending: "plain" | "negate"): Layout => ({
      ...kestrel,
      check: { ...kestrel.check, rule: { kind, ending } },
    });
    expect(working(with_("sum", "negate"), readGoal).endings).toEqual(["0x100 − 0x32 = 0xCE"]);
    const xor = working(with_("xor", "plain"), readGoal);
    // 05 xor 05 = 0, xor 11 = 11, xor 15 = 04, xor 02 = 06.
    expect(xor.steps.map(({ after }) => after)).toEqual([0x05, 0x00, 0x11, 0x04, 0x06]);
    expect([xor.endings, xor.value]).toEqual([[], 0x06]);
  });

  test("a CRC shows its eight shifts and what fell out of each: FFFF xor E6 is FF19, whose lowest bit is 1", () => {
    const { steps, endings } = working(heron, "E6 9C 05 01 00 00 C8 10");
    expect(steps[0]?.words).toBe("0xFFFF xor 0xE6 at the low end = 0xFF19; after eight shifts 0x8DBF");
    // (FF19 >> 1) xor 8408 = 7F8C xor 8408 = FB84, and then 0: FB84 >> 1 = 7DC2.
    expect(steps[0]?.shifts.slice(0, 2)).toEqual([
      { value: 0xfb84, fellOut: 1 },
      { value: 0x7dc2, fellOut: 0 },
    ]);
    expect(endings).toHaveLength(1);
    expect(endings[0]).toMatch(/ xor 0xFFFF = 0x10C8$/);
  });

  test("worked out on paper or at once, by any of the usual rules, the value is the same", () => {
    fc.assert(
      fc.property(fc.constantFrom(...usualChecks), fc.uint8Array({ minLength: 4, maxLength: 12 }), (rule, body) => {
        const layout: Layout = { ...kestrel, check: { ...kestrel.check, rule } };
        const { steps, value } = checkSteps(layout, dissect(layout, "request", [0x5a, 0xa7, body.length, ...body]));
        for (const [at, step] of steps.entries())
          expect(step.before).toBe(at === 0 ? step.before : steps[at - 1]?.after);
        const last = steps.at(-1)?.after ?? 0;
        const mask = rule.kind === "crc" ? 2 ** rule.bits - 1 : 0xff;
        const turned = rule.kind === "crc" && rule.reflectsIn !== rule.reflectsOut;
        const ending =
          rule.kind === "crc"
            ? (last ^ rule.finalXor) >>> 0
            : rule.ending === "plain"
              ? last
              : rule.ending === "complement"
                ? ~last & 0xff
                : (256 - last) & 0xff;
        if (!turned) expect(value & mask).toBe(ending & mask);
      }),
    );
  });
});
