import { explain, hexBytes, prove, readBytes } from "@core/bus";
import type { Layout } from "@core/project";
import { useState } from "react";
import { ByteRow } from "./ByteRow";

interface ProofProps {
  readonly layout: Layout;
  readonly isShipped: boolean;
  /** Takes the family as a remedy makes it. */
  readonly onMend: (layout: Layout) => void;
}

/** Example packets of the manual against the family: they fit, or it is said which rule would make them fit. */
export function Proof({ layout, isShipped, onMend }: ProofProps) {
  const [text, setText] = useState("");
  const lines = text.split(/\n/).filter((line) => line.trim() !== "");
  const read = lines.map((line) => {
    const isReply = /^\s*(<|reply)/i.test(line);
    return { isReply, bytes: readBytes(line.replace(/^\s*(<|>|reply|request):?/i, "")) };
  });
  const bad = read.find(({ bytes }) => !bytes.ok)?.bytes;
  const examples = read.flatMap(({ isReply, bytes }) =>
    bytes.ok ? [{ direction: isReply ? ("reply" as const) : ("request" as const), bytes: bytes.value }] : [],
  );
  const proof = prove(layout, bad ? [] : examples);
  return (
    <section className="sheet space-y-2" aria-label="Prove it">
      <h2 className="heading">Prove it with an example of the manual</h2>
      <label className="block">
        <span className="caption">One packet a line, in hex; a reply begins with “&lt;”</span>
        <textarea
          className="textarea number h-16 w-full bg-base-100 text-sm"
          value={text}
          spellCheck={false}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {bad && !bad.ok && (
        <p role="alert" className="text-sm text-error">
          {bad.problem}
        </p>
      )}
      {examples.map(({ direction, bytes }, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: an example is known by its line.
        <div key={at}>
          <p
            role="status"
            className={`text-sm ${proof.sentences[at]?.startsWith("It fits") ? "text-success" : "text-error"}`}
          >
            {proof.sentences[at]}
          </p>
          <ByteRow explained={explain(layout, direction, bytes)} bytes={bytes} base="hex" />
        </div>
      ))}
      {examples.length > 0 && !proof.isRight && (
        <div role="status">
          {proof.remedies.length === 0 ? (
            <p className="text-sm">
              None of the usual rules makes {examples.length === 1 ? "it" : "them"} right. Look at the header and the
              order of the fields first.
            </p>
          ) : (
            <>
              <p className="text-sm">
                It would be right with{" "}
                {proof.remedies.length === 1 ? "this rule" : "one of these rules; a second example tells them apart"}:
              </p>
              <ul className="mt-1 space-y-1">
                {proof.remedies.map((remedy) => (
                  <li key={remedy.words} className="flex items-baseline gap-2 text-sm">
                    <button
                      type="button"
                      className="btn btn-xs btn-outline"
                      disabled={isShipped}
                      onClick={() => onMend(remedy.layout)}
                    >
                      Use it
                    </button>
                    {remedy.words}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
      {proof.isRight && (
        <p className="text-sm font-semibold text-success">
          Proved by {examples.length === 1 ? "this example" : `these ${examples.length} examples`}:{" "}
          {examples.map(({ bytes }) => hexBytes(bytes)).join("; ")}
        </p>
      )}
    </section>
  );
}
