import { inflateSync } from "node:zlib";

/** What stands in a PDF: its pages' sizes in points, and how long the rules of 100 mm are. */
export function readPdf(bytes: Uint8Array) {
  const text = Buffer.from(bytes).toString("latin1");
  const boxes = [...text.matchAll(/\/MediaBox\s*\[0 0 ([\d.]+) ([\d.]+)\]/g)].map(([, width, height]) => [
    Number(width),
    Number(height),
  ]);
  const rules = [...text.matchAll(/stream\r?\n/g)].flatMap(({ index, 0: head }) => {
    const from = index + head.length;
    let drawn = "";
    try {
      drawn = inflateSync(Buffer.from(bytes).subarray(from, text.indexOf("endstream", from))).toString("latin1");
    } catch {
      return []; // a font, or a picture
    }
    const [, page = "1"] = /^([\d.]+) 0 0 -[\d.]+ /.exec(drawn) ?? [];
    // The rule's own scale, and a line from 0 to 100 right behind it.
    return [
      ...drawn.matchAll(
        /([\d.]+) 0 0 [\d.]+ [\d.]+ [\d.]+ cm\n(?:[^\n]*(?:RG|gs|w|J|j|d|EMC)[^\n]*\n)*0 0 m\n100 0 l/g,
      ),
    ].map(([, scale]) => Number(page) * Number(scale) * 100);
  });
  return { boxes, rules };
}
