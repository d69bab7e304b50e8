import { beginOrigin, type OriginKind } from "@core/origins";
import type { Source } from "@core/project";

/** The sources that a kind of origin begins with; a stick is two of them. Ids are the caller's. */
export const newSources = (kind: OriginKind, label: string, newId: () => string): readonly Source[] =>
  beginOrigin(kind, newId).map(({ origin, range, part }) => ({
    id: newId(),
    label: part ? `${label}, ${part}` : label,
    range,
    origin,
    isMuted: false,
    ifLost: { kind: "hold" },
  }));

/** The ranges that converters have. */
export const converterRanges = [8, 10, 12, 16].map((bits) => ({ bits, low: 0, high: 2 ** bits - 1 }));
