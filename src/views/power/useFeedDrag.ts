import { type Box, type Drawing, feedingBetween } from "@core/power";
import { feedFrom } from "@core/project";
import { edit, newId, projectNow } from "@stores/document";
import { type RefObject, useState } from "react";
import { useDrag } from "../parts/useDrag";

/** A thing that is pulled towards what is to feed it, or to be fed by it. */
export interface Pull {
  readonly from: Box;
  readonly toXMm: number;
  readonly toYMm: number;
  /** What it would be joined with if it were let go here; null for nothing. */
  readonly target: Box | null;
}

/** A press that goes no further than this only chooses. */
const leastPx = 5;

/** Drags a thing of the wiring onto another: the one that can feeds the other. What cannot be so, such as a ring, is refused in words by the edit. */
export function useFeedDrag(sheet: RefObject<SVGSVGElement | null>, { boxes }: Drawing) {
  const [pulled, setPulled] = useState<Pull | null>(null);
  /** The box under the pointer, and where on the sheet that is, in mm. */
  const under = (clientX: number, clientY: number) => {
    const matrix = sheet.current?.getScreenCTM();
    if (!matrix) return { x: 0, y: 0, box: null };
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse());
    const box = boxes.find(
      (one) =>
        // A rail is thin: a little beside it counts.
        x >= one.xMm - 1.5 && x <= one.xMm + one.wMm + 1.5 && y >= one.yMm - 1.5 && y <= one.yMm + one.hMm + 1.5,
    );
    return { x, y, box: box ?? null };
  };
  const handlers = useDrag<Box, SVGSVGElement>({
    leastPx,
    begin: ({ clientX, clientY }) => under(clientX, clientY).box,
    move: (from, { clientX, clientY }) => {
      const { x, y, box } = under(clientX, clientY);
      const canBe = box !== null && feedingBetween(from, box, projectNow().supplies) !== null;
      setPulled({ from, toXMm: x, toYMm: y, target: canBe ? box : null });
    },
    end: ({ kind, id }) => {
      const onto = pulled?.target;
      const feeding = onto && feedingBetween({ kind, id }, { kind: onto.kind, id: onto.id }, projectNow().supplies);
      if (feeding) edit(feedFrom(feeding.to, feeding.from, newId()));
      setPulled(null);
    },
    cancel: () => setPulled(null),
  });
  return { pulled, handlers };
}
