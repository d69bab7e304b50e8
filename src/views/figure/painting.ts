import { type Assembly, partFrame, type Standing, stand, standing } from "@core/figure";
import type { Part, Thing } from "@core/project";
import type { MeshOf } from "@core/shapes";
import { steady } from "../parts/draw";
import { type Ball, Camera, fitted, type Outlook } from "./camera";
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
  /** Shown in place of the canvas while it rests: of each canvas the browser makes a picture anew whenever anything on the page moves. */
  readonly image: HTMLImageElement;
  isImage: boolean;
  /** The part of the picture that it covers: left, top, right and bottom, in the picture's own px. */
  place: readonly [number, number, number, number];
  drawn: string;
  drawnMs: number;
}

/** What has not moved for so long rests. */
const restMs = 1000;

/** A canvas reaches further than what is drawn on it, in px: a little movement finds room. */
const slackPx = 24;
/** Half of the thickest line. */
const linePx = 2;
const nowhere = [0, 0, 0, 0] as const;

/**
 * A bench painted without three dimensions' machinery: each figure on a canvas of its own, no larger than it needs and drawn anew only when it has moved; what
 * stands around on canvases between them. From the back to the front, as a painter does it.
 */
export class Painting {
  readonly #now: Standing;
  readonly #layers: readonly Layer[];
  readonly #direction: Pick<Outlook, "aroundDeg" | "upDeg">;
  #camera: Camera | null = null;
  #dense = 1;
  #sizePx: readonly [number, number] = [1, 1];
  /** Of what a layer shows: left, top, right and bottom, in px; written over at each look. */
  readonly #bounds = new Float64Array(4);

  /** `hang` puts an element of the picture over all before it. */
  constructor(
    assembly: Assembly,
    things: readonly Thing[],
    meshOf: MeshOf,
    direction: Pick<Outlook, "aroundDeg" | "upDeg">,
    hang: (element: HTMLElement) => void,
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
      else {
        const canvas = document.createElement("canvas");
        const image = Object.assign(document.createElement("img"), { alt: "", hidden: true });
        hang(canvas);
        hang(image);
        layers.push({
          hung: [...hung],
          joints,
          still: joints.map(() => steady(seenWay)),
          canvas,
          image,
          isImage: false,
          place: nowhere,
          drawn: "",
          drawnMs: 0,
        });
      }
    }
    this.#layers = layers;
    for (const layer of layers) for (const { body, part } of layer.hung) if (part < 0) body.frame.set(body.rest);
  }

  /** Fits all of it into a picture of this size, in px. What is only seen (beams, clouds) may be cut off. `rests` are targets by place number. */
  fit(widthPx: number, heightPx: number, rests: ArrayLike<number>): void {
    if (widthPx < 2 || heightPx < 2) return;
    this.#now.targets.set(rests);
    stand(this.#now);
    const balls: Ball[] = [];
    for (const { hung } of this.#layers)
      for (const { body, part, mustFit } of hung) {
        if (!mustFit) continue;
        if (part >= 0) body.stand(this.#now.frames, partFrame(part));
        balls.push(...body.balls);
      }
    this.#dense = Math.min(window.devicePixelRatio || 1, 2);
    const [width, height] = [Math.round(widthPx * this.#dense), Math.round(heightPx * this.#dense)];
    const camera = new Camera(fitted(balls, this.#direction, width, height), width, height);
    this.#camera = camera;
    this.#sizePx = [width, height];
    for (const layer of this.#layers) Object.assign(layer, { place: nowhere, drawn: "" });
  }

  /** Gives a layer room for what it shows now; what it had it keeps, so that what goes to and fro is not given room again and again. */
  #makeRoom(layer: Layer, camera: Camera): void {
    const bounds = this.#bounds;
    bounds.fill(Number.POSITIVE_INFINITY, 0, 2);
    bounds.fill(Number.NEGATIVE_INFINITY, 2);
    for (const { body } of layer.hung) body.widen(bounds, camera);
    const [widthPx, heightPx] = this.#sizePx;
    const within = (value: number, most: number) => Math.min(Math.max(Math.round(value), 0), most);
    const roomFor = (spare: number) =>
      [
        within((bounds[0] as number) - spare, widthPx),
        within((bounds[1] as number) - spare, heightPx),
        within((bounds[2] as number) + spare, widthPx),
        within((bounds[3] as number) + spare, heightPx),
      ] as const;
    const [left, top, right, bottom] = roomFor(linePx);
    const had = layer.place;
    if (left >= had[0] && top >= had[1] && right <= had[2] && bottom <= had[3]) return;
    const wanted = roomFor(slackPx * this.#dense);
    layer.place =
      had === nowhere
        ? wanted
        : [
            Math.min(had[0], wanted[0]),
            Math.min(had[1], wanted[1]),
            Math.max(had[2], wanted[2]),
            Math.max(had[3], wanted[3]),
          ];
    const [atX, atY, endX, endY] = layer.place;
    Object.assign(layer.canvas, { width: Math.max(1, endX - atX), height: Math.max(1, endY - atY) });
    for (const { style } of [layer.canvas, layer.image]) {
      style.left = `${atX / this.#dense}px`;
      style.top = `${atY / this.#dense}px`;
      style.width = `${layer.canvas.width / this.#dense}px`;
      style.height = `${layer.canvas.height / this.#dense}px`;
    }
  }

  /** Where the table ends at the back, as a share of the picture's height. */
  get horizonShare(): number {
    if (!this.#camera) return 1;
    const seen = new Float64Array(2);
    const { middleMm, aroundDeg } = this.#camera.outlook;
    const around = (aroundDeg * Math.PI) / 180;
    this.#camera.see(middleMm[0] - 260 * Math.cos(around), middleMm[1] - 260 * Math.sin(around), 0, seen);
    return Math.max(0.2, Math.min(1, (seen[1] as number) / this.#sizePx[1]));
  }

  /** Draws what has moved. `targetOf` says where a joint stands, by its place number. */
  show(targetOf: (joint: number) => number): void {
    const camera = this.#camera;
    if (!camera) return;
    for (const layer of this.#layers) {
      layer.joints.forEach((joint, at) => {
        this.#now.targets[joint] = (layer.still[at] as (value: number) => number)(targetOf(joint));
      });
      const key = layer.joints.map((joint) => (this.#now.targets[joint] as number).toFixed(1)).join();
      if (layer.drawn === `:${key}`) {
        if (!layer.isImage && performance.now() - layer.drawnMs > restMs) rest(layer);
        continue;
      }
      layer.drawn = `:${key}`;
      layer.drawnMs = performance.now();
      stand(this.#now);
      this.#paint(layer, camera);
    }
  }

  #paint(layer: Layer, camera: Camera): void {
    const { hung, canvas } = layer;
    const to = canvas.getContext("2d");
    if (!to) return;
    for (const { body, part } of hung) {
      if (part >= 0) body.stand(this.#now.frames, partFrame(part));
      body.look(camera);
    }
    this.#makeRoom(layer, camera);
    const [left, top] = layer.place;
    to.setTransform(1, 0, 0, 1, -left, -top);
    to.clearRect(left, top, canvas.width, canvas.height);
    for (const { body } of hung.toSorted((a, b) => b.body.depthMm - a.body.depthMm)) body.paint(to, camera);
    layer.isImage = false;
    swap(layer);
  }
}

/** Has a layer that rests shown as an image, once that is ready; the canvas stays if it moves meanwhile, or if there is no room for an image. */
function rest(layer: Layer): void {
  layer.isImage = true;
  const { drawn } = layer;
  layer.canvas.toBlob((picture) => {
    if (!picture || !layer.isImage || layer.drawn !== drawn) return;
    const url = URL.createObjectURL(picture);
    layer.image.src = url;
    layer.image
      .decode()
      .then(() => layer.drawn === drawn && swap(layer))
      .catch(() => {})
      .finally(() => URL.revokeObjectURL(url));
  });
}

function swap({ canvas, image, isImage }: Layer): void {
  if (canvas.hidden !== isImage) canvas.hidden = isImage;
  if (image.hidden === isImage) image.hidden = !isImage;
}
