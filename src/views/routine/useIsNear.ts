import { type RefObject, useEffect, useState } from "react";

/** So far from what is in view it is near enough to come in the next moment, in px. */
const nearPx = 200;

/** Whether a row of a list that scrolls is in view, or near: what is not need not be drawn. */
export function useIsNear(row: RefObject<HTMLElement | null>): boolean {
  const [isNear, setIsNear] = useState(false);
  useEffect(() => {
    if (!row.current) return;
    const observer = new IntersectionObserver((entries) => setIsNear(entries.at(-1)?.isIntersecting ?? false), {
      root: row.current.parentElement,
      rootMargin: `${nearPx}px 0px`,
    });
    observer.observe(row.current);
    return () => observer.disconnect();
  }, [row]);
  return isNear;
}
