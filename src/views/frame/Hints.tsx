import { useEffect, useRef, useState } from "react";

interface Hint {
  readonly words: string;
  readonly left: number;
  readonly top: number;
  readonly isAbove: boolean;
}

/** A finger that rests so long asks what this is. */
const restMs = 500;
/** So long the focus stays somewhere before its words come: a walk with Tab is not followed by a trail of them. */
const focusMs = 700;
/** Under this, the words come below their element, where they have room. */
const roomPx = 56;
const marginPx = 140;

/**
 * The words that a mouse sees by resting on something (its `title`), for those who have none: they come where the keyboard's
 * focus rests, and under a finger that rests. One for the page, so that no control has to think of it.
 */
export function Hints() {
  const [hint, setHint] = useState<Hint | null>(null);
  const timer = useRef(0);
  useEffect(() => {
    const drop = () => {
      clearTimeout(timer.current);
      setHint(null);
    };
    const later = (target: EventTarget | null, afterMs: number) => {
      drop();
      const titled = target instanceof Element ? target.closest("[title]") : null;
      if (titled) timer.current = window.setTimeout(() => setHint(hintOf(titled)), afterMs);
    };
    const onFocus = ({ target }: FocusEvent) => {
      if (target instanceof Element && target.matches(":focus-visible")) later(target, focusMs);
    };
    const onDown = ({ target, pointerType }: PointerEvent) =>
      pointerType === "touch" ? later(target, restMs) : drop();
    const onKey = ({ key }: KeyboardEvent) => {
      if (key !== "Tab" && key !== "Shift") drop();
    };
    const ends = ["focusout", "pointerup", "pointercancel", "wheel", "blur"] as const;
    addEventListener("focusin", onFocus);
    addEventListener("pointerdown", onDown, true);
    addEventListener("keydown", onKey, true);
    for (const end of ends) addEventListener(end, drop, true);
    return () => {
      drop();
      removeEventListener("focusin", onFocus);
      removeEventListener("pointerdown", onDown, true);
      removeEventListener("keydown", onKey, true);
      for (const end of ends) removeEventListener(end, drop, true);
    };
  }, []);
  if (!hint?.words) return null;
  return (
    // The words are the element's own description already: nobody needs to hear them twice.
    <div
      aria-hidden="true"
      data-hint=""
      className={`pointer-events-none fixed z-50 max-w-64 -translate-x-1/2 border border-base-content/60 bg-base-100 px-2 py-1 text-sm text-base-content shadow ${hint.isAbove ? "-translate-y-full" : ""}`}
      style={{ left: hint.left, top: hint.top }}
    >
      {hint.words}
    </div>
  );
}

function hintOf(element: Element): Hint {
  const { left, width, top, bottom } = element.getBoundingClientRect();
  const isAbove = bottom + roomPx > innerHeight;
  const middle = Math.max(marginPx, Math.min(innerWidth - marginPx, left + width / 2));
  return { words: element.getAttribute("title") ?? "", left: middle, top: isAbove ? top - 6 : bottom + 6, isAbove };
}
