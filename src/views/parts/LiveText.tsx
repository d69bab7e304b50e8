import { onLive } from "@stores/live";
import { useEffect, useRef } from "react";

interface LiveTextProps {
  /** Gives the text of this moment; called a few times a second while the bench is live. */
  readonly read: () => string;
  readonly className?: string;
}

/** A number that changes faster than this cannot be read; the needles show what is quicker. */
const leastMs = 120;

/** A text that follows the live bench without a React render. */
export function LiveText({ read, className }: LiveTextProps) {
  const element = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let text = "";
    let shownMs = Number.NEGATIVE_INFINITY;
    // One text node is kept and rewritten: no node is made for a number.
    const written = document.createTextNode("");
    element.current?.replaceChildren(written);
    const show = () => {
      const nowMs = performance.now();
      if (nowMs - shownMs < leastMs) return;
      shownMs = nowMs;
      const next = read();
      if (next === text) return;
      text = next;
      written.nodeValue = next;
    };
    show();
    return onLive(show);
  }, [read]);
  return <span ref={element} className={`number ${className ?? ""}`} />;
}
