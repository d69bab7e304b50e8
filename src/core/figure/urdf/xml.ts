import { ok, problem, type Result } from "@core/result";
import { SaxesParser } from "saxes";

/** An element of a file: its name, what stands in its tag, and what lies within. */
export interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly Element[];
  /** The line on which it begins, for sentences. */
  readonly line: number;
}

const largestChars = 5_000_000;
const mostElements = 40_000;
const deepest = 40;

/** Reads XML into a tree. What is not well formed, has a DOCTYPE (and with it entities that could grow without end), or is larger or deeper than any machine is refused. */
export function readXml(text: string): Result<Element> {
  if (text.length > largestChars) return problem("The file is larger than 5 MB. A description of a machine is not.");
  if (text.trim() === "") return problem("The file is empty.");
  const parser = new SaxesParser({ position: true });
  const stack: { name: string; attributes: Record<string, string>; children: Element[]; line: number }[] = [];
  let root: Element | null = null;
  let trouble: string | null = null;
  let count = 0;
  const refuse = (sentence: string) => {
    trouble ??= sentence;
  };
  parser.on("error", (error) =>
    refuse(`Line ${parser.line}: this is not well-formed XML (${error.message.replace(/^\d+:\d+: /, "")}).`),
  );
  parser.on("doctype", () => refuse("The file has a DOCTYPE. Take it out: a description of a machine needs none."));
  parser.on("opentag", ({ name, attributes }) => {
    count += 1;
    if (count > mostElements) refuse(`The file has more than ${mostElements} elements.`);
    if (stack.length >= deepest) refuse(`Line ${parser.line}: elements lie more than ${deepest} deep in one another.`);
    if (trouble === null)
      stack.push({ name, attributes: { ...(attributes as Record<string, string>) }, children: [], line: parser.line });
  });
  parser.on("closetag", () => {
    const closed = stack.pop();
    if (!closed) return;
    const above = stack.at(-1);
    if (above) above.children.push(closed);
    else root = closed;
  });
  const piece = 64_000;
  for (let at = 0; at < text.length && trouble === null; at += piece) parser.write(text.slice(at, at + piece));
  if (trouble === null) parser.close();
  if (trouble !== null) return problem(trouble);
  return root ? ok(root) : problem("The file is empty.");
}

export const childrenOf = (element: Element, name: string): readonly Element[] =>
  element.children.filter((one) => one.name === name);
export const childOf = (element: Element | undefined, name: string): Element | undefined =>
  element?.children.find((one) => one.name === name);

/** Text within quotation marks. */
export const escaped = (text: string): string =>
  text
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;")
    .replaceAll("\n", "&#10;")
    .replaceAll("\t", "&#9;");
