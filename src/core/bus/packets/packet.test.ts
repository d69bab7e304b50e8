import {
  dissect,
  encodePacket,
  explain,
  heron,
  hexBytes,
  kestrel,
  type Packet,
  PacketReader,
  prove,
  usualChecks,
} from "@core/bus";
import { type CheckRule, type Field, type Layout, layoutSchema } from "@core/project";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { checkWorking } from "./checkSteps";

const bytesOf = (hex: string) => Uint8Array.from(hex.split(" "), (byte) => Number.parseInt(byte, 16));
const packetOf = (id: number, operation: number, parameters: number[]): Packet => ({
  direction: "request",
  id,
  operation,
  asksReply: false,
  error: 0,
  parameters: Uint8Array.from(parameters),
});

const order: fc.Arbitrary<Field[]> = fc
  .shuffledSubarray<Field>(["id", "operation"], { minLength: 2 })
  .chain((two) =>
    fc.constantFrom<Field[]>(
      ["header", "length", ...two, "parameters", "check"],
      ["header", ...two, "length", "parameters", "check"],
      ["header", two[0] as Field, "length", two[1] as Field, "parameters", "check"],
      ["header", "length", two[0] as Field, "parameters", two[1] as Field, "check"],
    ),
  );
const byte = fc.nat(255);
/** A family as somebody might have thought it up: any order, length, check, coverage, byte order and stuffing. */
const layouts: fc.Arbitrary<Layout> = fc
  .record({
    header: fc.uint8Array({ minLength: 1, maxLength: 4 }),
    requestFields: order,
    isLowFirst: fc.boolean(),
    counts: fc.subarray<Field>(["header", "id", "length", "operation", "check"]),
    plus: fc.integer({ min: 0, max: 3 }),
    size: fc.constantFrom(1 as const, 2 as const),
    askBit: fc.constantFrom(null, 0, 7),
    rule: fc.constantFrom<CheckRule>(...usualChecks),
    covers: fc.subarray<Field>(["header", "id", "length", "operation", "parameters"], { minLength: 1 }),
    stuffing: fc.oneof(
      fc.constant(null),
      fc.record({ escape: byte, xor: fc.integer({ min: 1, max: 255 }) }),
      fc.record({ after: fc.array(byte, { minLength: 1, maxLength: 3 }), insert: byte }),
    ),
  })
  .map(({ header, isLowFirst, counts, plus, size, askBit, rule, covers, stuffing, requestFields }): Layout => {
    const byteOrder = isLowFirst ? "low first" : "high first";
    const first = header[0] as number;
    return {
      ...kestrel,
      header: [...header],
      replyHeader: null,
      askBit,
      requestFields,
      replyFields: [...requestFields],
      byteOrder,
      length: { size, counts: ["parameters", ...counts], plus },
      check: { rule, covers, byteOrder },
      stuffing: !stuffing
        ? null
        : "insert" in stuffing
          ? { kind: "insert", ...stuffing }
          : { kind: "escape", ...stuffing, marks: [first] },
    };
  })
  // An escaped byte must not look like a mark itself, or nobody could tell them apart.
  .filter(({ stuffing, header }) => {
    if (stuffing?.kind !== "escape") return true;
    const marks = [stuffing.escape, ...stuffing.marks];
    return (
      !header.slice(1).includes(header[0] as number) && marks.every((mark) => !marks.includes(mark ^ stuffing.xor))
    );
  });
const packets = fc
  .tuple(fc.nat(254), byte, fc.uint8Array({ maxLength: 60 }))
  .map(([id, operation, parameters]) => packetOf(id, operation, [...parameters]));

describe("a packet", () => {
  test("of a Kestrel, worked out by hand: two bytes at 22 are fetched of device 3", () => {
    // 0xB4 + 0x47 + 3 + 2 + 2 + 22 = 280 = 0x118; what is missing to the next 0x100 is 0xE8.
    expect(hexBytes(encodePacket(kestrel, packetOf(3, 0x47, [2, 22])))).toBe("B4 47 03 02 02 16 E8");
  });

  test("that asks for an answer has the highest bit in its operation, and is read as what it was", () => {
    // The elbow's goal, 9375 = 0x249F, put at 50: without an answer 0x50, with one 0xD0.
    const put = packetOf(3, 0x50, [50, 0x24, 0x9f]);
    expect(hexBytes(encodePacket(kestrel, put))).toBe("B4 50 03 03 32 24 9F 01");
    const asking = { ...put, asksReply: true };
    expect(hexBytes(encodePacket(kestrel, asking))).toBe("B4 D0 03 03 32 24 9F 81");
    expect(dissect(kestrel, "request", encodePacket(kestrel, asking)).packet).toEqual(asking);
  });

  test("of a Heron keeps its header byte out of the rest", () => {
    // 11 bytes with their header; D1 becomes AC C4, and AC becomes AC B9. The CRC was worked out by another program: 0xBEC3.
    const bytes = encodePacket(heron, packetOf(0xd1, 11, [0x0c, 0x05, 0xac]));
    expect(hexBytes(bytes)).toBe("D1 2E 0B 00 0B AC C4 0C 05 AC B9 C3 BE");
    expect(dissect(heron, "request", bytes).packet?.id).toBe(0xd1);
  });

  test("of any family comes back as it was", () => {
    fc.assert(
      fc.property(layouts, packets, fc.boolean(), (layout, plain, asks) => {
        const mask = layout.askBit === null ? 0 : 1 << layout.askBit;
        const packet = { ...plain, operation: plain.operation & ~mask, asksReply: asks && mask !== 0 };
        const found = dissect(layout, "request", encodePacket(layout, packet));
        expect(found.fault).toBeNull();
        expect(found.packet).toEqual(packet);
      }),
      { numRuns: 2000 },
    );
  });

  test("whose bit was flipped is not believed: a sum over all sees every single bit", () => {
    const good = encodePacket(kestrel, packetOf(3, 0x50, [50, 2, 0]));
    for (let bit = 0; bit < good.length * 8; bit += 1) {
      const bad = good.slice();
      bad[bit >> 3] = (bad[bit >> 3] as number) ^ (1 << (bit & 7));
      expect(dissect(kestrel, "request", bad).status).not.toBe("whole");
    }
  });
});

describe("a reader", () => {
  const heardIn = (layout: Layout, ...pieces: ArrayLike<number>[]) => {
    const reader = new PacketReader(layout, "request");
    const found: Packet[] = [];
    let noise = 0;
    const take = (heard: Parameters<Parameters<typeof reader.read>[1]>[0]) => {
      if (heard.kind === "packet") found.push(heard.packet);
      else noise += heard.bytes.length;
    };
    for (const piece of pieces) reader.read(piece, take);
    reader.flush(take);
    return { found, noise };
  };

  test("finds every good packet, however the bytes are cut and whatever lies between them, and never throws", () => {
    // What lies between has no first byte of a header in it: a false beginning with a right check by chance would be nobody's fault.
    const noises = fc.uint8Array({ maxLength: 12 }).map((bytes) => bytes.map((one) => (one === 0xd1 ? 0 : one)));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(noises, packets), { maxLength: 8 }),
        fc.infiniteStream(fc.integer({ min: 1, max: 20 })),
        (parts, cuts) => {
          const stream = parts.flatMap(([noise, packet]) => [...noise, ...encodePacket(heron, packet)]);
          const pieces: number[][] = [];
          for (let at = 0; at < stream.length; ) {
            const size = cuts.next().value as number;
            pieces.push(stream.slice(at, at + size));
            at += size;
          }
          expect(heardIn(heron, ...pieces).found).toEqual(parts.map(([, packet]) => packet));
        },
      ),
      { numRuns: 300 },
    );
  });

  test("takes any bytes at all, in any family", () => {
    fc.assert(
      fc.property(layouts, fc.array(fc.uint8Array({ maxLength: 40 }), { maxLength: 6 }), (layout, pieces) => {
        heardIn(layout, ...pieces);
        for (const bytes of pieces) explain(layout, "request", bytes);
      }),
      { numRuns: 500 },
    );
  });

  test("a false beginning costs no packet behind it", () => {
    const good = encodePacket(kestrel, packetOf(3, 0x51, []));
    // A header, and a length that claims the packet behind it.
    const { found, noise } = heardIn(kestrel, [0xb4, 0x51, 0x03, 0x04], good);
    expect(found).toHaveLength(1);
    expect(noise).toBe(4);
  });
});

describe("every byte in words", () => {
  const said = (layout: Layout, hex: string) => explain(layout, "request", bytesOf(hex));

  test("a goal for the elbow", () => {
    const { spans, sentence } = said(kestrel, "B4 50 03 03 32 24 9F 01");
    expect(spans.map(({ label }) => label)).toEqual([
      "header",
      "operation",
      "id",
      "length",
      "address",
      "Wanted place",
      "check",
    ]);
    expect(spans[1]?.meaning).toBe("50: put, without an answer.");
    expect(spans[5]?.meaning).toBe("9375: 150.00°");
    expect(sentence).toBe("A request to device 3: put.");
    expect(said(kestrel, "B4 D0 03 03 32 24 9F 81").spans[1]?.meaning).toBe("D0: put, and an answer, please.");
  });

  test("a wrong check says what would be right, and that there will be silence", () => {
    const { spans, sentence } = said(kestrel, "B4 50 03 03 32 24 9F 02");
    expect(spans.at(-1)).toMatchObject({ isWrong: true, meaning: expect.stringContaining("the bytes come to 01") });
    expect(sentence).toContain("nothing at all");
  });

  test("the check step by step, with the person's own numbers", () => {
    const { dissection } = said(kestrel, "B4 51 07 00 F4");
    const { steps, endings, value } = checkWorking(kestrel, dissection);
    expect(steps.map(({ words }) => words)).toEqual([
      "0x00 + 0xB4 = 0xB4",
      "0xB4 + 0x51 = 0x05 (0x105 without what is above 8 bits)",
      "0x05 + 0x07 = 0x0C",
      "0x0C + 0x00 = 0x0C",
    ]);
    expect(endings).toEqual(["0x100 − 0x0C = 0xF4"]);
    expect(value).toBe(0xf4);
  });
});

describe("proving a family", () => {
  const examples = ["B4 47 03 02 02 16 E8", "B4 51 07 00 F4"].map((hex) => ({
    direction: "request" as const,
    bytes: [...bytesOf(hex)],
  }));

  test("a right one fits its examples", () => {
    expect(prove(kestrel, examples)).toMatchObject({ isRight: true, remedies: [] });
  });

  test.each<[string, Partial<Layout>]>([
    [
      "a plain sum instead of what is missing to 0",
      { check: { ...kestrel.check, rule: { kind: "sum", ending: "plain" } } },
    ],
    [
      "a check that leaves out the header",
      { check: { ...kestrel.check, covers: ["operation", "id", "error", "length", "parameters"] } },
    ],
    ["a length that counts the check", { length: { size: 1, counts: ["parameters", "check"], plus: 0 } }],
    ["another header", { header: [0xb5] }],
  ])("%s: it says what would make it right, and that does", (_, wrong) => {
    const proof = prove({ ...kestrel, ...wrong } as Layout, examples);
    expect(proof.isRight).toBe(false);
    expect(proof.remedies.length).toBeGreaterThan(0);
    for (const { layout } of proof.remedies) {
      expect(layoutSchema.safeParse(layout).success).toBe(true);
      expect(prove(layout, examples).isRight).toBe(true);
    }
  });

  test("a check of 16 bits is found among the usual ones, with its coverage", () => {
    const bytes = [...encodePacket(heron, packetOf(2, 11, [0x0e, 5, 4]))];
    const wrong: Layout = {
      ...heron,
      stuffing: null,
      check: { ...heron.check, rule: { ...(heron.check.rule as never as object), start: 1, finalXor: 0 } as never },
    };
    const proof = prove(wrong, [{ direction: "request", bytes }]);
    expect(
      proof.remedies.some(({ words }) =>
        words.includes("CRC-16, polynomial 0x3D65, start 0x0000, reflected, final xor 0xFFFF"),
      ),
    ).toBe(true);
  });
});
