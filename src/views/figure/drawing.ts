import { type Assembly, type Frames, isElsewhere, partFrame, type Standing, stand, standing } from "@core/figure";
import type { Thing } from "@core/project";
import type { MeshOf } from "@core/shapes";
import type { Ball, Camera } from "./camera";
import { PaintedBody } from "./paintedBody";

interface Hung {
  readonly body: PaintedBody;
  readonly part: number;
}

/** Figures and what stands around, drawn at once onto one canvas from wherever one likes. */
export class Drawing {
  readonly now: Standing;
  readonly #hung: readonly Hung[];

  constructor(assembly: Assembly, things: readonly Thing[], meshOf: MeshOf) {
    this.now = standing(assembly);
    this.#hung = [
      ...assembly.parts.flatMap(({ bodies }, part) =>
        bodies.map((body) => ({ body: new PaintedBody(body, meshOf), part })),
      ),
      ...things.map((thing) => ({ body: new PaintedBody({ ...thing, isSolid: true }, meshOf), part: -1 })),
    ];
    for (const { body, part } of this.#hung) if (part < 0) body.frame.set(body.rest);
  }

  /** Draws all of it as the targets in `now` say; beside another drawing's frames only those parts that stand elsewhere. */
  draw(to: CanvasRenderingContext2D, camera: Camera, alpha = 1, beside: Frames | null = null): void {
    stand(this.now);
    const seen = beside
      ? this.#hung.filter(({ part }) => part >= 0 && isElsewhere(this.now.frames, beside, partFrame(part)))
      : this.#hung;
    for (const { body, part } of seen) {
      if (part >= 0) body.stand(this.now.frames, partFrame(part));
      body.look(camera);
    }
    to.globalAlpha = alpha;
    for (const { body } of seen.toSorted((a, b) => b.body.depthMm - a.body.depthMm)) body.paint(to, camera);
    to.globalAlpha = 1;
  }

  /** Balls around all bodies where they stand, for fitting a view. */
  balls(): readonly Ball[] {
    stand(this.now);
    return this.#hung.flatMap(({ body, part }) => {
      if (part < 0) return [];
      body.stand(this.now.frames, partFrame(part));
      return body.balls;
    });
  }
}
