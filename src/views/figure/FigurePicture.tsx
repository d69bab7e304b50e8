import { Fetched } from "../parts/Fetched";
import { lazily } from "../parts/lazily";
import type { FigurePictureProps } from "./PaintedFigures";

/** Fetched once the rest stands: the dial can be turned before the picture is there. */
const PaintedFigures = lazily(() => import("./PaintedFigures"));

/** The bench as a small picture: its figures as their servos stand, and what stands around them. */
export function FigurePicture(props: FigurePictureProps) {
  return (
    <Fetched fallback={<div className={`bg-scene-sky ${props.className ?? ""}`} />}>
      <PaintedFigures {...props} />
    </Fetched>
  );
}
