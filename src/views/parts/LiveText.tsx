import { onLive, pace } from "@stores/live";
import { useEffect, useRef } from "react";

interface LiveTextProps {
  /** Gives the text of this moment; called a few times a second while the bench is live. */
  readonly read: () => string;
  readonly className?: string;
  /** Where its size is known: the classes of the box that holds it. A text in such a box is laid out alone, and nothing around it. */
  readonly box?: string;
}

/** A text that follows the live bench without a React render. */
export function LiveText({ read, className, box }: LiveTextProps) {
  const element = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let text = "";
    // One text node is kept and rewritten: no node is made for a number.
    const written = document.createTextNode("");
    element.current?.replaceChildren(written);
    const show = () => {
      const next = read();
      if (next === text) return;
      text = next;
      written.nodeValue = next;
    };
    show();
    return onLive(show, pace.words);
  }, [read]);
  if (box === undefined) return <span ref={element} className={`number ${className ?? ""}`} />;
  // The box stands between: what is contained counts only within a block, and the box itself may lie in a row.
  return (
    <span className={box}>
      <span ref={element} className={`number block size-full [contain:strict] ${className ?? ""}`} />
    </span>
  );
}
