import type { CardState } from "@core/servo";
import { formatDate } from "../parts/format";

/** How a servo stands, in words. */
export function stateWords(state: CardState): string {
  switch (state.kind) {
    case "new":
      return "new";
    case "calibrated":
      return `calibrated ${formatDate(state.madeAt).slice(0, 10)}`;
    case "checkDue":
      return "check due";
    case "retired":
      return "retired";
  }
}
