import { onLive, pace } from "@stores/live";
import { useEffect, useRef } from "react";

interface LiveTextProps {
  /** Gives the text of this moment; called a few times a second while the bench is live. */
  readonly read: () => string;
  readonly className?: string;
}

/** A text that follows the live bench without a React render. */
export function LiveText({ read, className }: LiveTextProps) {
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
  return <span ref={element} className={`number ${className ?? ""}`} />;
}
