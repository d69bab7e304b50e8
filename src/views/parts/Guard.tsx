import { notify } from "@stores/notices";
import { Component, type ReactNode } from "react";
import { fetchAnew } from "./lazily";

/** What went wrong, in a sentence, and whether it was only not there to be fetched. */
export interface ViewFault {
  readonly why: string;
  readonly isUnfetched: boolean;
}

interface GuardProps {
  readonly children: ReactNode;
  /** What is shown instead, with the way to show it again. */
  readonly instead: (fault: ViewFault, again: () => void) => ReactNode;
  readonly onFault?: (fault: ViewFault) => void;
}

function faultOf(error: unknown): ViewFault {
  const why = error instanceof Error ? error.message : String(error);
  // What browsers say of code that is fetched when it is needed.
  const isUnfetched = /import/i.test(why) && /fail|error/i.test(why);
  return isUnfetched
    ? { isUnfetched, why: "It could not be fetched: the server does not answer, or has another Vantel by now." }
    : { isUnfetched, why };
}

/** Keeps a fault of a view where it is: what lies beside it goes on. (React catches them in a class only.) */
export class Guard extends Component<GuardProps, { readonly fault: ViewFault | null }> {
  override state: { readonly fault: ViewFault | null } = { fault: null };

  static getDerivedStateFromError(error: unknown) {
    return { fault: faultOf(error) };
  }

  override componentDidCatch(error: unknown) {
    this.props.onFault?.(faultOf(error));
  }

  readonly #again = () => {
    fetchAnew();
    this.setState({ fault: null });
  };

  override render() {
    const { fault } = this.state;
    return fault === null ? this.props.children : this.props.instead(fault, this.#again);
  }
}

/** A part that broke leaves those beside it where they are. */
export function Apart({ children }: { readonly children: ReactNode }) {
  return (
    <Guard
      onFault={({ why }) => notify(`A part of the page cannot be shown. ${why}`, "warning")}
      instead={({ why }, again) => (
        <button type="button" className="btn btn-outline btn-xs text-error" title={why} onClick={again}>
          A fault here: show it again
        </button>
      )}
    >
      {children}
    </Guard>
  );
}
