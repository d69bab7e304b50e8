import { askedBy, explain, heron, kestrel, usualChecks } from "@core/bus";
import type { Layout } from "@core/project";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { checkWorking } from "../packets/checkSteps";
import { dissect } from "../packets/dissect";
import { errorByteOf, errorsIn, troublesIn } from "../registers/troubles";
import { countedWords } from "./explain";

const bytesOf = (hex: string) => Uint8Array.from(hex.split(" "), (byte) => Number.parseInt(byte, 16));
/** The spans as a table: which bytes, what they are called, what they say; a `!` before what is wrong. */
const table = (layout: Layout, direction: "request" | "reply", hex: string, askedHex?: string) =>
  explain(layout, direction, bytesOf(hex), askedHex ? askedBy(layout, bytesOf(askedHex)) : null).spans.map(
    ({ from, to, label, meaning, isWrong }) => `${from}–${to} ${label}: ${isWrong ? "!" : ""}${meaning}`,
  );
const sentence = (layout: Layout, direction: "request" | "reply", hex: string) =>
  explain(layout, direction, hex === "" ? [] : bytesOf(hex)).sentence;

// B4 + 47 + 05 + 02 + 02 + 32 = 0x136; 0x100 − 0x36 = 0xCA.
const readGoal = "B4 47 05 02 02 32 CA";
// 125 parts of 0.016°: 4B + 00 + 05 + 02 + 00 + 7D = 0xCF; 0x100 − 0xCF = 0x31.
const goalIs125 = "4B 00 05 02 00 7D 31";

describe("every byte in words", () => {
  test("a request to read the goal position of a Kestrel", () => {
    expect(table(kestrel, "request", readGoal)).toEqual([
      "0–1 header: Here a request begins.",
      "1–2 operation: 47: get.",
      "2–3 id: To device 5.",
      "3–4 length: 2 bytes: parameters.",
      "4–5 count: 2 bytes.",
      "5–6 address: 50: Wanted place.",
      "6–7 check: CA, as the bytes come to.",
    ]);
    expect(sentence(kestrel, "request", readGoal)).toBe("A request to device 5: get.");
  });

  test("its reply says nothing of what was asked: with the request beside it, the register is known", () => {
    expect(table(kestrel, "reply", goalIs125, readGoal).slice(1)).toEqual([
      "1–2 error: No trouble.",
      "2–3 id: From device 5.",
      "3–4 length: 2 bytes: parameters.",
      "4–6 Wanted place: 125: 2.00°",
      "6–7 check: 31, as the bytes come to.",
    ]);
    expect(table(kestrel, "reply", goalIs125)[4]).toBe("4–6 parameters: 00 7D");
    // Below the middle: 0xFF83 is −125. 4B + 05 + 02 + FF + 83 = 0x1D4.
    expect(table(kestrel, "reply", "4B 00 05 02 FF 83 2C", readGoal)[4]).toBe("4–6 Wanted place: -125: −2.00°");
  });

  test("a value whose direction stands in a byte behind it: 300 thousandths of torque, towards smaller angles", () => {
    // Load is at 19 and 20, its direction at 21: 01 2C 01. The sum of the request is 0x118, that of the reply 0x81.
    const readLoad = "B4 47 03 02 03 13 EA";
    const reply = "4B 00 03 03 01 2C 01 81";
    expect(table(kestrel, "reply", reply, readLoad).slice(4, 6)).toEqual([
      "4–6 Load: -300: −30.0 %",
      "6–7 Load direction: 1: towards smaller angles",
    ]);
  });

  test("trouble is told by its code: 11 is the strain", () => {
    // 4B + 0B + 05 + 02 + 00 + 7D = 0xDA; 0x100 − 0xDA = 0x26.
    const hex = "4B 0B 05 02 00 7D 26";
    expect(table(kestrel, "reply", hex, readGoal)[1]).toBe("1–2 error: !Trouble: strained.");
    expect(sentence(kestrel, "reply", hex)).toBe("A reply of device 5, which tells of trouble: strained.");
  });

  test("a group write: for each device its id and its goal", () => {
    // Two devices, 7500 parts above the middle and as many below; a part is 0.016°, and the high byte comes first.
    const hex = "B4 53 F0 08 02 32 01 1D 4C 02 E2 B4 CB";
    const { spans, sentence: said } = explain(kestrel, "request", bytesOf(hex));
    expect(said).toBe("A request to all devices: spread.");
    expect(spans.slice(1).map(({ label, meaning }) => `${label}: ${meaning}`)).toEqual([
      "operation: 53: spread.",
      "id: To all devices at once; none of them answers.",
      "length: 8 bytes: parameters.",
      "count: 2 bytes.",
      "address: 50: Wanted place.",
      "id: Device 1.",
      "Wanted place: 7500: 120.00°",
      "id: Device 2.",
      "Wanted place: -7500: −120.00°",
      "check: CB, as the bytes come to.",
    ]);
  });

  test("an address in the middle of nowhere, and a register cut in two", () => {
    // A Heron’s goal has four bytes; two of them are no goal.
    const spans = table(heron, "request", "D1 2E 0C 00 14 05 08 04 00 02 E5 72").slice(4, 7);
    expect(spans).toEqual([
      "6–8 address: 1032: Asked angle.",
      "8–9 data: At address 1032: 0.",
      "9–10 data: At address 1033: 2.",
    ]);
    // At 40 a Kestrel has nothing.
    expect(table(kestrel, "request", "B4 47 05 02 02 28 D4")[5]).toBe("5–6 address: !40: no register begins here.");
  });
});

describe("what is wrong, and with which number", () => {
  test.each([
    ["", "There are no bytes yet."],
    ["B4", "The packet is not whole: it ends within its header."],
    ["B4 47 05 02 02", "The packet is not whole: more bytes belong to it."],
    ["4B 47 05 02 02 32 CA", "A request of Kestrel begins with B4."],
    ["B4 47 05 02 02 32 CB", "The check is wrong, so a device would say nothing at all."],
  ])("%s", (hex, said) => expect(sentence(kestrel, "request", hex)).toBe(said));

  test("a length that is less than what it counts", () => {
    expect(sentence(heron, "request", "D1 2E 07 00 0A 01 FF 48")).toBe(
      "The length says 7, and at least 8 would be right: it counts header, length, operation, id, parameters, check.",
    );
  });

  test("a check that is off by one says both numbers, and that a device keeps silent", () => {
    const spans = explain(kestrel, "request", bytesOf("B4 47 05 02 02 32 CB")).spans;
    expect(spans.at(-1)).toMatchObject({ field: "check", from: 6, to: 7, isWrong: true });
    expect(spans.at(-1)?.meaning).toBe("It says CB; the bytes come to CA. A device keeps silent about such a packet.");
  });

  test("bytes after the end are no part of it; an operation that nobody has is named by its number", () => {
    expect(table(kestrel, "request", `${readGoal} 00 00`).at(-1)).toBe(
      "7–9 beyond: !The packet ended before these bytes.",
    );
    expect(table(kestrel, "request", "B4 77 05 00 D0")[1]).toBe("1–2 operation: !Kestrel has no operation 77.");
    expect(sentence(kestrel, "request", "B4 77 05 00 D0")).toBe("A request to device 5: an operation nobody knows.");
  });

  test("what the manual does not name is told by its number; 0 is no trouble, by bits and by codes", () => {
    for (const layout of [kestrel, heron]) expect(errorsIn(layout, 0)).toEqual([]);
    expect(errorsIn({ ...heron, errors: { kind: "bits", list: [] } }, 0b1000_0001)).toEqual(["bit 0", "bit 7"]);
    expect(errorsIn(kestrel, 200)).toEqual(["code 200"]);
  });

  test("two troubles at once are two bits, but one code: the worse of them", () => {
    const both = new Set(["voltage", "temperature"] as const);
    // Bit 5 is the voltage, bit 7 the heat.
    expect(errorByteOf(heron, both)).toBe(0b1010_0000);
    expect(errorsIn(heron, 0b1010_0000)).toEqual(["voltage", "too hot"]);
    expect(errorByteOf(kestrel, both)).toBe(12);
    expect(troublesIn(kestrel, 12)[0]).toMatchObject({ label: "hot", letsGo: true });
  });

  test("what the length counts is said with what is added or taken away", () => {
    const more = { ...kestrel, length: { ...kestrel.length, counts: ["parameters"], plus: 2 } } as Layout;
    expect(countedWords(more, "request")).toBe("parameters, and 2");
    expect(countedWords({ ...more, length: { ...more.length, plus: -1 } }, "request")).toBe("parameters, less 1");
  });
});

describe("the check on paper", () => {
  const working = (layout: Layout, hex: string) => checkWorking(layout, dissect(layout, "request", bytesOf(hex)));

  test("a sum goes byte by byte, and its bits are turned over at last", () => {
    const turned: Layout = { ...kestrel, check: { ...kestrel.check, rule: { kind: "sum", ending: "complement" } } };
    const { steps, endings, value, digits } = working(turned, readGoal);
    expect(steps.map(({ words }) => words)).toEqual([
      "0x00 + 0xB4 = 0xB4",
      "0xB4 + 0x47 = 0xFB",
      "0xFB + 0x05 = 0x00 (0x100 without what is above 8 bits)",
      "0x00 + 0x02 = 0x02",
      "0x02 + 0x02 = 0x04",
      "0x04 + 0x32 = 0x36",
    ]);
    expect(endings).toEqual(["all bits turned over: 0x36 becomes 0xC9"]);
    expect([value, digits]).toEqual([0xc9, 2]);
  });

  test("a negated sum and a plain xor", () => {
    const with_ = (kind: "sum" | "xor", ending: "plain" | "negate"): Layout => ({
      ...kestrel,
      check: { ...kestrel.check, rule: { kind, ending } },
    });
    expect(working(with_("sum", "negate"), readGoal).endings).toEqual(["0x100 − 0x36 = 0xCA"]);
    const xor = working(with_("xor", "plain"), readGoal);
    // B4 xor 47 = F3, xor 05 = F6, xor 02 = F4, xor 02 = F6, xor 32 = C4.
    expect(xor.steps.map(({ after }) => after)).toEqual([0xb4, 0xf3, 0xf6, 0xf4, 0xf6, 0xc4]);
    expect([xor.endings, xor.value]).toEqual([[], 0xc4]);
  });

  test("a CRC shows its eight shifts and what fell out of each: 8 is 4, 2, 1, and then the 1 falls", () => {
    const { steps, endings } = working(heron, "D1 2E 08 00 0A 01 FF 48");
    expect(steps[0]?.words).toBe("0x0000 xor 0x08 at the low end = 0x0008; after eight shifts 0xFF89");
    // 3D65 read backwards is A6BC: that is what is xored in when the 1 falls out.
    expect(steps[0]?.shifts.slice(0, 5)).toEqual([
      { value: 0x0004, fellOut: 0 },
      { value: 0x0002, fellOut: 0 },
      { value: 0x0001, fellOut: 0 },
      { value: 0xa6bc, fellOut: 1 },
      { value: 0x535e, fellOut: 0 },
    ]);
    expect(endings).toHaveLength(1);
    expect(endings[0]).toMatch(/ xor 0xFFFF = 0x48FF$/);
  });

  test("worked out on paper or at once, by any of the usual rules, the value is the same", () => {
    fc.assert(
      fc.property(fc.constantFrom(...usualChecks), fc.uint8Array({ minLength: 4, maxLength: 12 }), (rule, body) => {
        const layout: Layout = { ...kestrel, check: { ...kestrel.check, rule } };
        const { steps, value } = checkWorking(
          layout,
          dissect(layout, "request", [0xb4, 0x51, 1, body.length, ...body, 0, 0, 0, 0]),
        );
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
