import { dissect, encodePacket, heron, kestrel, operationFor, parameterWords, whySilent } from "@core/bus";
import { expect, test } from "vitest";

const ask = (id: number, kind: "ping" | "read", layout = kestrel) => {
  const operation = operationFor(layout, kind)?.code ?? 0;
  const parameters = Uint8Array.from(kind === "read" ? [0, 2] : []);
  const bytes = encodePacket(layout, { direction: "request", id, operation, asksReply: false, error: 0, parameters });
  return dissect(layout, "request", bytes).packet;
};
const known = [
  { id: 3, layout: kestrel, strayBitsPerS: null },
  { id: 4, layout: heron, strayBitsPerS: null },
  { id: 5, layout: kestrel, strayBitsPerS: 57_600 },
];

test.each([
  ["no packet at all", null, "is ignored without a word"],
  ["nobody of that number", ask(9, "ping"), "Nobody is known to be number 9"],
  ["another family", ask(4, "ping"), "number 4 is a Heron"],
  ["another speed", ask(5, "ping"), "at another speed"],
  ["one that should be there", ask(3, "ping"), "Number 3 should be there"],
])("silence after %s has its likeliest cause", (_, packet, words) => {
  expect(whySilent(kestrel, packet, known)).toContain(words);
});

test("what an operation carries is told in words, and that it carries nothing", () => {
  expect(parameterWords(kestrel, operationFor(kestrel, "ping")?.code ?? 0)).toBe("none");
  expect(parameterWords(kestrel, operationFor(kestrel, "read")?.code ?? 0)).toMatch(/address/);
});
