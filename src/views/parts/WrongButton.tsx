import { layOver } from "@stores/overBench";

/** Where a servo does not do what it should: asks what it does, and says where to look. */
export const WrongButton = ({ className = "btn-sm" }: { readonly className?: string }) => (
  <button
    type="button"
    className={`btn btn-outline ${className}`}
    title="Say what it does wrong, and see where to look (Q)"
    onClick={() => layOver({ kind: "symptoms", id: null })}
  >
    What is wrong?
  </button>
);
