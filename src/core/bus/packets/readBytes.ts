import { ok, problem, type Result } from "@core/result";

/**
 * Bytes as a person types or pastes them: hex with or without 0x, commas or spaces; decimals with a dot behind, bits with a `0b` before. `5AA7` without a
 * space is two bytes.
 */
export function readBytes(text: string): Result<number[]> {
  const bytes: number[] = [];
  for (const word of text.split(/[\s,;]+/).filter((one) => one !== "")) {
    if (/^0b[01]{1,8}$/i.test(word)) bytes.push(Number.parseInt(word.slice(2), 2));
    else if (/^\d{1,3}\.$/.test(word) && Number.parseInt(word, 10) < 256) bytes.push(Number.parseInt(word, 10));
    else if (/^(0x)?[0-9a-f]{1,2}$/i.test(word)) bytes.push(Number.parseInt(word.replace(/^0x/i, ""), 16));
    else if (/^(0x)?([0-9a-f]{2}){2,}$/i.test(word))
      for (const pair of word.replace(/^0x/i, "").match(/../g) ?? []) bytes.push(Number.parseInt(pair, 16));
    else return problem(`“${word}” is no byte. Write 5A, 0x5A, 90. or 0b01011010.`);
  }
  return ok(bytes);
}
