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
  /** The part of the picture that its canvas covers: left, top, width and height, in the picture's own px. */
  place: readonly [number, number, number, number];
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
  readonly #travelOf: (joint: number) => readonly [number, number];
  #dense = 1;
  #heightPx = 1;

  /** `travelOf` says from where to where a joint goes, by its place number; `addCanvas` gives a canvas that lies over all before it. */
  constructor(
    assembly: Assembly,
    things: readonly Thing[],
    meshOf: MeshOf,
    direction: Pick<Outlook, "aroundDeg" | "upDeg">,
    travelOf: (joint: number) => readonly [number, number],
    addCanvas: () => HTMLCanvasElement,
  ) {
    this.#travelOf = travelOf;
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
          place: [0, 0, 0, 0],
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
    const camera = new Camera(fitted(balls, this.#direction, width, height), width, height);
    this.#camera = camera;
    this.#heightPx = height;
    for (const layer of this.#layers) {
      layer.place =
        layer.joints.length === 0 ? [0, 0, width, height] : this.#reachOf(layer, camera, width, height, rests);
      const [left, top, wide, high] = layer.place;
      Object.assign(layer.canvas, { width: wide, height: high });
      const { style } = layer.canvas;
      style.left = `${left / this.#dense}px`;
      style.top = `${top / this.#dense}px`;
      style.width = `${wide / this.#dense}px`;
      style.height = `${high / this.#dense}px`;
      layer.drawn = "";
    }
  }

  /** What a layer can come to cover, found by standing it in stances that are spread over the travel of its joints: a small canvas is painted quickly. */
  #reachOf(
    { hung, joints }: Layer,
    camera: Camera,
    width: number,
    height: number,
    rests: ArrayLike<number>,
  ): Layer["place"] {
    let [left, top, right, bottom] = [width, height, 0, 0];
    const seen = new Float64Array(2);
    for (let stance = 0; stance <= 40; stance += 1) {
      this.#now.targets.set(rests);
      joints.forEach((joint, at) => {
        const [low, high] = this.#travelOf(joint);
        // The ends of each first, then places between them.
        const share = stance < 4 ? (stance >> (at & 1)) & 1 : (stance * 0.618 * (at + 1)) % 1;
        if (stance > 0) this.#now.targets[joint] = low + share * (high - low);
      });
      stand(this.#now);
      for (const { body, part } of hung) {
        if (part >= 0) body.stand(this.#now.frames, partFrame(part));
        const depth = camera.see(body.frame[9] as number, body.frame[10] as number, body.frame[11] as number, seen);
        const reach = body.reachMm * camera.scaleAt(depth) + 3;
        left = Math.min(left, (seen[0] as number) - reach);
        right = Math.max(right, (seen[0] as number) + reach);
        top = Math.min(top, (seen[1] as number) - reach);
        bottom = Math.max(bottom, (seen[1] as number) + reach);
      }
    }
    // Stances that were not tried reach a little further.
    const [spareX, spareY] = [(right - left) * 0.05, (bottom - top) * 0.05];
    const from = [Math.max(0, Math.floor(left - spareX)), Math.max(0, Math.floor(top - spareY))] as const;
    return [
      from[0],
      from[1],
      Math.max(1, Math.min(width, Math.ceil(right + spareX)) - from[0]),
      Math.max(1, Math.min(height, Math.ceil(bottom + spareY)) - from[1]),
    ];
  }

  /** Where the table ends at the back, as a share of the picture's height. */
  get horizonShare(): number {
    if (!this.#camera) return 1;
    const seen = new Float64Array(2);
    const { middleMm, aroundDeg } = this.#camera.outlook;
    const around = (aroundDeg * Math.PI) / 180;
    this.#camera.see(middleMm[0] - 260 * Math.cos(around), middleMm[1] - 260 * Math.sin(around), 0, seen);
    return Math.max(0.2, Math.min(1, (seen[1] as number) / this.#heightPx));
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

  #paint({ hung, canvas, place }: Layer, camera: Camera): void {
    const to = canvas.getContext("2d");
    if (!to) return;
    to.setTransform(1, 0, 0, 1, -place[0], -place[1]);
    to.clearRect(place[0], place[1], place[2], place[3]);
    for (const { body, part } of hung) {
      if (part >= 0) body.stand(this.#now.frames, partFrame(part));
      body.look(camera);
    }
    for (const { body } of hung.toSorted((a, b) => b.body.depthMm - a.body.depthMm)) body.paint(to, camera);
  }
}
