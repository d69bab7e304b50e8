import { onLive } from "@stores/live";
import { useEffect, useRef } from "react";

interface LiveTextProps {
  /** Gives the text of this moment; called once per display frame at most. */
  readonly read: () => string;
  readonly className?: string;
}

/** A text that follows the live bench without a React render. */
export function LiveText({ read, className }: LiveTextProps) {
  const element = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const show = () => {
      const text = read();
      if (element.current && element.current.textContent !== text) element.current.textContent = text;
    };
    show();
    return onLive(show);
  }, [read]);
  return <span ref={element} className={`number ${className ?? ""}`} />;
}
