import { type CheckRule, type Field, type Layout, layoutSchema } from "@core/project";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
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
} from ".";
import { checkSteps } from "./checkSteps";

const bytesOf = (hex: string) => Uint8Array.from(hex.split(" "), (byte) => Number.parseInt(byte, 16));
const packetOf = (id: number, operation: number, parameters: number[]): Packet => ({
  direction: "request",
  id,
  operation,
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
    rule: fc.constantFrom<CheckRule>(...usualChecks),
    covers: fc.subarray<Field>(["header", "id", "length", "operation", "parameters"], { minLength: 1 }),
    stuffing: fc.oneof(
      fc.constant(null),
      fc.record({ escape: byte, xor: fc.integer({ min: 1, max: 255 }) }),
      fc.record({ after: fc.array(byte, { minLength: 1, maxLength: 3 }), insert: byte }),
    ),
  })
  .map(({ header, isLowFirst, counts, plus, size, rule, covers, stuffing, requestFields }): Layout => {
    const byteOrder = isLowFirst ? "low first" : "high first";
    const first = header[0] as number;
    return {
      ...kestrel,
      header: [...header],
      replyHeader: null,
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
  test("of a Kestrel, worked out by hand: a read of two bytes at 30 of device 3", () => {
    // id, operation, two parameters and the check are 5; 5 + 3 + 0x11 + 30 + 2 = 57 = 0x39, complemented 0xC6.
    expect(hexBytes(encodePacket(kestrel, packetOf(3, 0x11, [30, 2])))).toBe("5A A7 05 03 11 1E 02 C6");
  });

  test("of a Heron keeps its header byte out of the rest", () => {
    const bytes = encodePacket(heron, packetOf(0xe6, 0x02, [0x7c, 0]));
    expect(hexBytes(bytes.slice(0, 10))).toBe("E6 9C 7C C6 02 02 00 7C 5C 00");
    expect(dissect(heron, "request", bytes).packet?.id).toBe(0xe6);
  });

  test("of any family comes back as it was", () => {
    fc.assert(
      fc.property(layouts, packets, (layout, packet) => {
        const found = dissect(layout, "request", encodePacket(layout, packet));
        expect(found.fault).toBeNull();
        expect(found.packet).toEqual(packet);
      }),
      { numRuns: 2000 },
    );
  });

  test("whose bit was flipped is not believed: a sum over all but the header sees every single bit", () => {
    const good = encodePacket(kestrel, packetOf(3, 0x12, [21, 2, 0]));
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
    const noises = fc.uint8Array({ maxLength: 12 }).map((bytes) => bytes.map((one) => (one === 0xe6 ? 0 : one)));
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
    const good = encodePacket(kestrel, packetOf(3, 0x10, []));
    // A header and a length that claims the packet behind it.
    const { found, noise } = heardIn(kestrel, [0x5a, 0xa7, 0x09], good);
    expect(found).toHaveLength(1);
    expect(noise).toBe(3);
  });
});

describe("every byte in words", () => {
  const said = (layout: Layout, hex: string) => explain(layout, "request", bytesOf(hex));

  test("a goal for the elbow", () => {
    const { spans, sentence } = said(kestrel, "5A A7 06 03 12 15 02 00 CD");
    expect(spans.map(({ label }) => label)).toEqual([
      "header",
      "length",
      "id",
      "operation",
      "address",
      "Goal position",
      "check",
    ]);
    expect(spans[5]?.meaning).toBe("512: 150.0°");
    expect(sentence).toBe("A request to device 3: write.");
  });

  test("a wrong check says what would be right, and that there will be silence", () => {
    const { spans, sentence } = said(kestrel, "5A A7 06 03 12 15 02 00 CC");
    expect(spans.at(-1)).toMatchObject({ isWrong: true, meaning: expect.stringContaining("the bytes come to CD") });
    expect(sentence).toContain("nothing at all");
  });

  test("the check step by step, with the person's own numbers", () => {
    const { dissection } = said(kestrel, "5A A7 05 03 11 1E 02 C6");
    const { steps, endings, value } = checkSteps(kestrel, dissection);
    expect(steps.map(({ words }) => words)).toEqual([
      "0x00 + 0x05 = 0x05",
      "0x05 + 0x03 = 0x08",
      "0x08 + 0x11 = 0x19",
      "0x19 + 0x1E = 0x37",
      "0x37 + 0x02 = 0x39",
    ]);
    expect(endings).toEqual(["all bits turned over: 0x39 becomes 0xC6"]);
    expect(value).toBe(0xc6);
  });
});

describe("proving a family", () => {
  const examples = ["5A A7 05 03 11 1E 02 C6", "5A A7 03 07 10 E5"].map((hex) => ({
    direction: "request" as const,
    bytes: [...bytesOf(hex)],
  }));

  test("a right one fits its examples", () => {
    expect(prove(kestrel, examples)).toMatchObject({ isRight: true, remedies: [] });
  });

  test.each<[string, Partial<Layout>]>([
    ["a plain sum instead of its complement", { check: { ...kestrel.check, rule: { kind: "sum", ending: "plain" } } }],
    [
      "a check that leaves out the length",
      { check: { ...kestrel.check, covers: ["id", "operation", "error", "parameters"] } },
    ],
    [
      "a length that does not count the check",
      { length: { size: 1, counts: ["id", "operation", "parameters"], plus: 0 } },
    ],
    ["another header", { header: [0x5a, 0xa5] }],
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
    const bytes = [...encodePacket(heron, packetOf(2, 0x02, [0x50, 0, 4, 0]))];
    const wrong: Layout = {
      ...heron,
      stuffing: null,
      check: { ...heron.check, rule: { ...(heron.check.rule as never as object), start: 0, finalXor: 0 } as never },
    };
    const proof = prove(wrong, [{ direction: "request", bytes }]);
    expect(
      proof.remedies.some(({ words }) =>
        words.includes("CRC-16, polynomial 0x1021, start 0xFFFF, reflected, final xor 0xFFFF"),
      ),
    ).toBe(true);
  });
});
