import { demoProject } from "@core/demo";
import { assembleBench, partFrame, stand, standing } from "@core/figure";
import { expect, test } from "vitest";
import { Camera, fitted, frontal } from "./camera";
import { PaintedBody } from "./paintedBody";

const demo = demoProject();
const [width, height] = [336, 158];

test.each([
  ["from before", frontal],
  ["from a corner above", { aroundDeg: 35, upDeg: 40 }],
])("whatever is fitted into a small wide picture is seen whole, %s: also a single upright horn", (_, direction) => {
  const now = standing(assembleBench(demo));
  stand(now);
  for (const [part, { bodies }] of now.assembly.parts.entries())
    for (const one of bodies) {
      const body = new PaintedBody(one, (id) => demo.meshes.find((mesh) => mesh.id === id));
      body.stand(now.frames, partFrame(part));
      const camera = new Camera(fitted(body.balls, direction, width, height), width, height);
      body.look(camera);
      const bounds = Float64Array.of(1e9, 1e9, -1e9, -1e9);
      body.widen(bounds, camera);
      const [left = 0, top = 0, right = 0, bottom = 0] = bounds;
      // Whole, and as large as it may be: it fills the picture one way or the other. What is nearer than the eye may come stays small.
      expect([one.shape.kind, left >= 0, top >= 0, right <= width, bottom <= height]).toEqual([
        one.shape.kind,
        true,
        true,
        true,
        true,
      ]);
      const fills = Math.max((right - left) / width, (bottom - top) / height);
      if (camera.outlook.farMm > 120) expect(fills).toBeGreaterThan(0.6);
    }
});
