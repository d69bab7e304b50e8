import { seededRandom } from "@core/sim";
import { expect, test } from "vitest";
import { StrangeBytes } from ".";

const words = (bytes: ArrayLike<number>, silentForMs = 5000) => {
  const strange = new StrangeBytes();
  strange.hear(Uint8Array.from(bytes));
  return strange.sentence("Fern", silentForMs);
};
const ascii = (text: string) => [...text].map((character) => character.charCodeAt(0));
const random = seededRandom(3);

test.each([
  ["nothing at all, for long", [], /^Nobody answers as Fern/],
  ["a sketch that prints", ascii("light=512\nlight=513\nlight=514\nready\n"), /plain text/],
  ["its own greeting", ascii("V 2#3005\nV 2#3005\nV 2#3005\n"), /comes straight back/],
  [
    "packets of a bus",
    Array.from({ length: 40 }, (_, at) => [255, 255, 3, 4, 0, 36, 2, 210][at % 8] as number),
    /smart servos/,
  ],
  ["text at a wrong speed", Array.from({ length: 60 }, () => Math.floor(random() * 254)), /wrong speed/],
])("%s is named for what it most likely is", (_, bytes, sentence) => {
  expect(words(bytes)).toMatch(sentence);
});

test("too little to tell, and a silence that has just begun, are not talked about", () => {
  expect(words(ascii("V 2"))).toBeNull();
  expect(words([], 500)).toBeNull();
});
