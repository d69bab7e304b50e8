import { byId, type Project, type Run } from "@core/project";
import { gaugeOfArea } from "./conductor";
import { netOf, type Place } from "./net";

/**
 * The wiring as a drawing, in mm: power comes from the left, signals from the right. Every servo, and every wire to a board, has a row of its own; what feeds them
 * stands to the left of its rows and the boards to the right, once at each group of its rows, so wires run straight along their rows, and nothing crosses but where a thing is fed
 * from far off.
 */
export interface Drawing {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly boxes: readonly Box[];
  readonly wires: readonly Wire[];
  /** Where a sheet may be cut: the upper edge of each row. */
  readonly cutsMm: readonly number[];
}

export interface Box {
  readonly kind: "supply" | "rail" | "joint" | "board";
  readonly id: string;
  readonly label: string;
  /** A board whose servos lie apart stands at each of their groups: 0 for where it stands first. */
  readonly part: number;
  readonly xMm: number;
  readonly yMm: number;
  readonly wMm: number;
  readonly hMm: number;
  /** Numbered pins of a board, on its left edge. */
  readonly pins: readonly { readonly yMm: number; readonly number: number }[];
}

export interface Wire {
  /** What it is of: a run, or the signal of a joint. */
  readonly of: { readonly kind: "run"; readonly id: string } | { readonly kind: "signal"; readonly jointId: string };
  readonly role: "supply" | "ground" | "signal";
  /** Its colour in words, as the card has it; null where nobody said. */
  readonly colour: string | null;
  readonly points: readonly (readonly [xMm: number, yMm: number])[];
}

export const rowMm = 7;
const marginMm = 4;
const supplyMm = { w: 31, h: 12.6 };
const railW = 3;
const servoW = 31;
const boardW = 21;
/** Before the servos: room for what is written on a run. */
const gapMm = 26;
/** Before what feeds others, of whose runs it is written above or below them. */
const supplyGapMm = 9;
const railGapMm = 5;
const signalGapMm = 7;
/** Above a rail there is room for its name. */
const railHeadMm = 4.5;
/** Supply and ground lie so far apart. */
const pairMm = 1.5;

interface Row {
  readonly kind: "joint" | "board" | "ground" | "bare";
  /** The place that it ends at. */
  readonly at: number;
  readonly run: Run | null;
}

/** Lays the drawing out. The same project gives the same drawing. */
export function drawingOf(project: Project): Drawing {
  const net = netOf(project);
  const { places, parents, runs } = net;
  const children = places.map((): number[] => []);
  const tops: number[] = [];
  places.forEach((place, at) => {
    const parent = parents[at] as number;
    if (parent >= 0) children[parent]?.push(at);
    else if (place.kind === "supply" || (place.kind === "rail" && hasUse(project, place))) tops.push(at);
  });
  for (const list of children) {
    const own = new Set(list.map((at) => places[at]?.id));
    list.sort((a, b) => rankOf(project, places[a], own) - rankOf(project, places[b], own));
  }

  // Rows, from the top: each thing that feeds takes as many as hang on it, and one at least.
  const rows: Row[] = [];
  /** How much further down each row stands than its number says. */
  const lowered: number[] = [];
  let loweredMm = 0;
  const addRow = (row: Row) => {
    rows.push(row);
    lowered.push(loweredMm);
  };
  const spans = new Map<number, { first: number; last: number; depth: number }>();
  const lay = (at: number, depth: number): void => {
    const place = places[at] as Place;
    const run = runs[at] ?? null;
    if (place.kind === "joint") {
      addRow({ kind: "joint", at, run });
      return;
    }
    if (place.kind === "board") {
      addRow({ kind: "board", at, run });
      for (const pin of children[at] ?? []) lay(pin, depth);
      return;
    }
    const first = rows.length;
    if (place.kind === "rail") loweredMm += railHeadMm;
    for (const child of children[at] ?? []) lay(child, depth + 1);
    for (const link of project.runs)
      if (link.carries === "ground" && link.from.kind === place.kind && link.from.id === place.id)
        addRow({
          kind: "ground",
          at: places.findIndex((one) => one.kind === link.to.kind && one.id === link.to.id),
          run: link,
        });
    const least = place.kind === "supply" ? 2 : 1;
    while (rows.length < first + least) addRow({ kind: "bare", at, run: null });
    spans.set(at, { first, last: rows.length - 1, depth });
  };
  for (const top of tops) lay(top, 0);
  // A board that has its supply from elsewhere may feed others by a pin.
  places.forEach((place, at) => {
    if (place.kind === "board" && (parents[at] as number) < 0) for (const pin of children[at] ?? []) lay(pin, 0);
  });
  places.forEach((place, at) => {
    if (place.kind === "joint" && (parents[at] as number) < 0) addRow({ kind: "joint", at, run: null });
  });

  const depths = Math.max(0, ...[...spans.values()].map(({ depth }) => depth));
  const columns = columnsOf(depths, spans, places);
  const servoX = spans.size === 0 ? marginMm : (columns.at(-1)?.rightMm ?? marginMm) + gapMm;
  const middleOf = (row: number) => marginMm + (row + 0.5) * rowMm + (lowered[row] ?? 0);
  const boxes: Box[] = [];
  const boxOf = new Map<number, Box>();
  const add = (at: number, box: Omit<Box, "kind" | "id" | "label" | "part">, part = 0) => {
    const { kind, id } = places[at] as Place;
    const made: Box = { ...box, kind, id, label: labelOf(project, kind, id), part };
    boxes.push(made);
    if (part === 0) boxOf.set(at, made);
  };
  for (const [at, { first, last, depth }] of spans) {
    const isRail = places[at]?.kind === "rail";
    const [top, bottom] = [middleOf(first), middleOf(last)];
    add(at, {
      xMm: isRail ? (columns[depth]?.rightMm ?? 0) - railW : (columns[depth]?.leftMm ?? 0),
      yMm: isRail ? top - rowMm * 0.4 : (top + bottom) / 2 - supplyMm.h / 2,
      wMm: isRail ? railW : supplyMm.w,
      hMm: isRail ? bottom - top + rowMm * 0.8 : supplyMm.h,
      pins: [],
    });
  }
  rows.forEach((row, index) => {
    if (row.kind !== "joint") return;
    add(row.at, { xMm: servoX, yMm: middleOf(index) - rowMm * 0.4, wMm: servoW, hMm: rowMm * 0.8, pins: [] });
  });
  const boardsX = servoX + servoW + signalGapMm;
  const laid = boardParts(project, places, rows);
  for (const { at, part, first, last, pins } of laid)
    add(
      at,
      {
        xMm: boardsX,
        yMm: middleOf(first) - rowMm * 0.45,
        wMm: boardW,
        hMm: middleOf(last) - middleOf(first) + rowMm * 0.9,
        pins: pins.map(({ row, number }) => ({ yMm: middleOf(row), number })),
      },
      part,
    );

  const wires: Wire[] = [];
  const pair = (
    run: Run,
    points: (offMm: number) => Wire["points"],
    colours: { ground: string | null; supply: string | null },
  ) => {
    const of = { kind: "run", id: run.id } as const;
    if (run.carries !== "ground")
      wires.push({ of, role: "supply", colour: colours.supply, points: points(-pairMm / 2) });
    if (run.carries !== "supply")
      wires.push({ of, role: "ground", colour: colours.ground, points: points(pairMm / 2) });
  };
  const rightOf = (box: Box) => box.xMm + box.wMm;
  rows.forEach(({ kind, at, run }, index) => {
    const from = run && boxOf.get(places.findIndex((one) => one.kind === run.from.kind && one.id === run.from.id));
    const to = boxOf.get(at);
    if (!run || !from || !to || kind === "bare") return;
    const y = middleOf(index);
    // A ground alone, to a servo: it stands in a row of its own and comes to the servo from there.
    if (kind === "ground" && to.kind !== "board") {
      const toY = to.yMm + to.hMm / 2;
      pair(run, (off) => bent(rightOf(from), clamped(from, y) + off, to.xMm, toY + off, to.xMm - 3 + off), {
        ground: null,
        supply: null,
      });
      return;
    }
    const card = kind === "joint" ? byId(project.cards, byId(project.joints, run.to.id).cardId) : null;
    pair(
      run,
      (off) =>
        from.kind === "rail" || Math.abs(y - (from.yMm + from.hMm / 2)) < 0.01
          ? [
              [rightOf(from), y + off],
              [to.xMm, y + off],
            ]
          : bent(rightOf(from), clamped(from, y) + off, to.xMm, y + off, rightOf(from) + 4 + off),
      { ground: card?.wires.ground ?? null, supply: card?.wires.supply ?? null },
    );
  });
  for (const [at, box] of boxOf) {
    const run = runs[at];
    const from = boxOf.get(parents[at] as number);
    if (!run || !from || (box.kind !== "rail" && box.kind !== "supply")) continue;
    const y = box.yMm + box.hMm / 2;
    const fromY = from.kind === "rail" ? y : from.yMm + from.hMm / 2;
    pair(
      run,
      (off) =>
        Math.abs(fromY - y) < 0.01
          ? [
              [rightOf(from), y + off],
              [box.xMm, y + off],
            ]
          : bent(rightOf(from), fromY + off, box.xMm, y + off, (rightOf(from) + box.xMm) / 2 + off),
      { ground: null, supply: null },
    );
  }
  for (const { pins } of laid) {
    for (const { jointAt, row } of pins) {
      const servo = boxOf.get(jointAt);
      if (!servo) continue;
      const joint = byId(project.joints, servo.id);
      const y = middleOf(row);
      wires.push({
        of: { kind: "signal", jointId: joint.id },
        role: "signal",
        colour: byId(project.cards, joint.cardId).wires.signal || null,
        points: [
          [rightOf(servo), y],
          [boardsX, y],
        ],
      });
    }
  }
  return {
    widthMm: boardsX + boardW + marginMm,
    heightMm: 2 * marginMm + Math.max(1, rows.length) * rowMm + loweredMm,
    boxes,
    wires,
    cutsMm: rows.map((_, row) => middleOf(row) - rowMm / 2),
  };
}

/** From where to where each column of what feeds reaches: as wide as the widest thing in it. */
function columnsOf(
  depths: number,
  spans: ReadonlyMap<number, { readonly depth: number }>,
  places: readonly Place[],
): readonly { readonly leftMm: number; readonly rightMm: number }[] {
  const columns: { leftMm: number; rightMm: number }[] = [];
  for (let depth = 0; depth <= depths; depth += 1) {
    const here = [...spans].filter(([, span]) => span.depth === depth).map(([at]) => places[at]?.kind);
    const hasSupply = here.includes("supply");
    const before = columns.at(-1)?.rightMm;
    const leftMm = before === undefined ? marginMm : before + (hasSupply ? supplyGapMm : railGapMm);
    columns.push({ leftMm, rightMm: leftMm + (hasSupply ? supplyMm.w : railW) });
  }
  return columns;
}

const bent = (x0: number, y0: number, x1: number, y1: number, bendX: number): Wire["points"] => [
  [x0, y0],
  [bendX, y0],
  [bendX, y1],
  [x1, y1],
];

/** A supply feeds from its right edge, at the height of the row where that is beside it. */
const clamped = ({ yMm, hMm }: Box, y: number): number => Math.max(yMm + 2, Math.min(yMm + hMm - 2, y));

const hasUse = ({ runs }: Project, { id }: Place): boolean =>
  runs.some(({ from, to }) => from.id === id || to.id === id);

/**
 * Servos stand by their board and channel, each board behind its own, then what feeds others. A board all of whose servos are fed by something else comes first: those stand above.
 */
function rankOf(project: Project, place: Place | undefined, beside: ReadonlySet<string | undefined>): number {
  if (!place) return 0;
  if (place.kind === "joint") {
    const joint = byId(project.joints, place.id);
    return project.boards.findIndex(({ id }) => id === joint.boardId) * 1000 + joint.channel;
  }
  if (place.kind === "board") {
    const hasOwn = project.joints.some(({ id, boardId }) => boardId === place.id && beside.has(id));
    return hasOwn ? project.boards.findIndex(({ id }) => id === place.id) * 1000 + 999 : -1;
  }
  return 1e6;
}

function labelOf(project: Project, kind: Box["kind"], id: string): string {
  const items = { supply: project.supplies, rail: project.rails, board: project.boards, joint: project.joints }[kind];
  return byId(items as readonly { readonly id: string; readonly label: string }[], id).label;
}

interface BoardPart {
  readonly at: number;
  readonly part: number;
  readonly first: number;
  readonly last: number;
  readonly pins: readonly { readonly row: number; readonly number: number; readonly jointAt: number }[];
}

/** Each board beside the rows that lead to it: once for every group of rows that lie together. */
function boardParts(project: Project, places: readonly Place[], rows: readonly Row[]): readonly BoardPart[] {
  const boardAt = ({ kind, at }: Row): number => {
    if (kind !== "joint") return kind !== "bare" && places[at]?.kind === "board" ? at : -1;
    const { boardId } = byId(project.joints, (places[at] as Place).id);
    return places.findIndex((place) => place.kind === "board" && place.id === boardId);
  };
  const parts: (Omit<BoardPart, "pins"> & { last: number; pins: BoardPart["pins"][number][] })[] = [];
  rows.forEach((row, index) => {
    const at = boardAt(row);
    if (at < 0) return;
    const before = parts.at(-1);
    const isGoingOn = before?.at === at && before.last === index - 1;
    const here = isGoingOn
      ? before
      : { at, part: parts.filter((one) => one.at === at).length, first: index, last: index, pins: [] };
    if (!isGoingOn) parts.push(here);
    here.last = index;
    if (row.kind === "joint")
      here.pins.push({
        row: index,
        number: byId(project.joints, (places[row.at] as Place).id).channel,
        jointAt: row.at,
      });
  });
  return parts;
}

/** What is written on a run: its length and its copper. */
export const runWords = ({ lengthMm, areaMm2 }: Run): string =>
  `${lengthMm >= 995 ? `${(lengthMm / 1000).toFixed(1)} m` : `${Math.round(lengthMm / 10)} cm`} · ${areaMm2} mm² (gauge ${gaugeOfArea(areaMm2)})`;
