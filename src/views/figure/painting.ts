import { type Assembly, partFrame, type Standing, stand, standing } from "@core/figure";
import type { Part, Thing } from "@core/project";
import type { MeshOf } from "@core/shapes";
import { steady } from "../parts/draw";
import { Camera, fitted, type Outlook } from "./camera";
import { PaintedBody } from "./paintedBody";

/** What trembles by less is not seen to move at the size of a picture, in degrees or mm. */
const seenWay = 0.5;

interface Hung {
  readonly body: PaintedBody;
  /** The place number of its part; −1 for what only stands there. */
  readonly part: number;
  /** What is only seen does not have to fit into the picture. */
  readonly mustFit: boolean;
}

interface Layer {
  readonly hung: readonly Hung[];
  /** The joints by which it moves; none for what stands still. */
  readonly joints: readonly number[];
  readonly still: readonly ((value: number) => number)[];
  readonly canvas: HTMLCanvasElement;
  drawn: string;
}

/**
 * A bench painted without three dimensions' machinery: each figure on a canvas of its own, drawn anew only when it has moved; what stands around on canvases
 * between them. From the back to the front, as a painter does it.
 */
export class Painting {
  readonly #now: Standing;
  readonly #layers: readonly Layer[];
  readonly #direction: Pick<Outlook, "aroundDeg" | "upDeg">;
  #camera: Camera | null = null;
  #dense = 1;

  /** `addCanvas` gives a canvas that lies over all before it. */
  constructor(
    assembly: Assembly,
    things: readonly Thing[],
    meshOf: MeshOf,
    direction: Pick<Outlook, "aroundDeg" | "upDeg">,
    addCanvas: () => HTMLCanvasElement,
  ) {
    this.#now = standing(assembly);
    this.#direction = direction;
    const around = (direction.aroundDeg * Math.PI) / 180;
    const nearOf = (at: readonly number[]) =>
      (at[0] as number) * Math.cos(around) + (at[1] as number) * Math.sin(around);
    const groups: { readonly near: number; readonly hung: Hung[]; readonly joints: readonly number[] }[] = [];
    for (const figure of new Set(assembly.figureOf)) {
      const parts = assembly.parts.flatMap((part, place) =>
        assembly.figureOf[place] === figure ? [{ part, place }] : [],
      );
      const joints = [
        ...new Set(parts.map(({ place }) => assembly.movers[place] as number).filter((joint) => joint >= 0)),
      ];
      groups.push({
        near: nearOf(figure.place.atMm),
        joints,
        hung: parts.flatMap(({ part, place }: { part: Part; place: number }) =>
          part.bodies.map((body) => ({ body: new PaintedBody(body, meshOf), part: place, mustFit: true })),
        ),
      });
    }
    for (const thing of things)
      groups.push({
        near: nearOf(thing.place.atMm),
        joints: [],
        hung: [
          { body: new PaintedBody({ ...thing, isSolid: true }, meshOf), part: -1, mustFit: thing.kind !== "seen" },
        ],
      });
    groups.sort((a, b) => a.near - b.near);
    const layers: Layer[] = [];
    for (const { hung, joints } of groups) {
      const last = layers.at(-1);
      // What stands still beside what stands still shares its canvas.
      if (last && joints.length === 0 && last.joints.length === 0) (last.hung as Hung[]).push(...hung);
      else
        layers.push({
          hung: [...hung],
          joints,
          still: joints.map(() => steady(seenWay)),
          canvas: addCanvas(),
          drawn: "",
        });
    }
    this.#layers = layers;
    for (const layer of layers) for (const { body, part } of layer.hung) if (part < 0) body.frame.set(body.rest);
  }

  /** Fits all of it into a picture of this size, in px. What is only seen (beams, clouds) may be cut off. `rests` are targets by place number. */
  fit(widthPx: number, heightPx: number, rests: ArrayLike<number>): void {
    if (widthPx < 2 || heightPx < 2) return;
    this.#now.targets.set(rests);
    stand(this.#now);
    const balls: [number, number, number, number][] = [];
    for (const { hung } of this.#layers)
      for (const { body, part, mustFit } of hung) {
        if (!mustFit) continue;
        if (part >= 0) body.stand(this.#now.frames, partFrame(part));
        balls.push([body.frame[9] as number, body.frame[10] as number, body.frame[11] as number, body.reachMm * 0.8]);
      }
    this.#dense = Math.min(window.devicePixelRatio || 1, 2);
    const [width, height] = [Math.round(widthPx * this.#dense), Math.round(heightPx * this.#dense)];
    this.#camera = new Camera(fitted(balls, this.#direction, width, height), width, height);
    for (const layer of this.#layers) {
      layer.canvas.width = width;
      layer.canvas.height = height;
      layer.drawn = "";
    }
  }

  /** Where the table ends at the back, as a share of the picture's height. */
  get horizonShare(): number {
    if (!this.#camera) return 1;
    const seen = new Float64Array(2);
    const { middleMm, aroundDeg } = this.#camera.outlook;
    const around = (aroundDeg * Math.PI) / 180;
    this.#camera.see(middleMm[0] - 260 * Math.cos(around), middleMm[1] - 260 * Math.sin(around), 0, seen);
    const height = this.#layers[0]?.canvas.height ?? 1;
    return Math.max(0.2, Math.min(1, (seen[1] as number) / height));
  }

  /** Draws what has moved. `targetOf` says where a joint stands, by its place number. Gives how many layers were drawn. */
  show(targetOf: (joint: number) => number): number {
    const camera = this.#camera;
    if (!camera) return 0;
    let drawn = 0;
    for (const layer of this.#layers) {
      layer.joints.forEach((joint, at) => {
        this.#now.targets[joint] = (layer.still[at] as (value: number) => number)(targetOf(joint));
      });
      const key = layer.joints.map((joint) => (this.#now.targets[joint] as number).toFixed(1)).join();
      if (layer.drawn === `:${key}`) continue;
      layer.drawn = `:${key}`;
      stand(this.#now);
      this.#paint(layer, camera);
      drawn += 1;
    }
    return drawn;
  }

  #paint({ hung, canvas }: Layer, camera: Camera): void {
    const to = canvas.getContext("2d");
    if (!to) return;
    to.clearRect(0, 0, canvas.width, canvas.height);
    for (const { body, part } of hung) {
      if (part >= 0) body.stand(this.#now.frames, partFrame(part));
      body.look(camera);
    }
    for (const { body } of hung.toSorted((a, b) => b.body.depthMm - a.body.depthMm)) body.paint(to, camera);
  }
}
