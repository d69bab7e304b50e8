import { type ReactNode, Suspense } from "react";
import { Apart } from "./Guard";

interface FetchedProps {
  readonly children?: ReactNode;
  /** What is shown until it is there. */
  readonly fallback?: ReactNode;
}

/** Where something is shown that is fetched when it is first needed (`lazily`). If it cannot be fetched, or breaks, what lies beside it goes on. */
export function Fetched({ children, fallback }: FetchedProps) {
  return (
    <Apart>
      <Suspense fallback={fallback}>{children}</Suspense>
    </Apart>
  );
}
