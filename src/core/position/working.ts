import { encodingWorking } from "@core/encodings";
import { figure } from "@core/numbers";
import { frameHzOf } from "@core/project";
import { type JointBench, servoDegOf } from "@core/rig";
import { curveOf, spinCurveOf } from "@core/servo";
import type { SpinCurve } from "@core/signal";
import { equationsFor } from "./equations";

/** A calculation with the person's own numbers: a heading, and its lines in order. */
export interface Working {
  readonly heading: string;
  readonly lines: readonly string[];
}

const n = figure;
const plus = (value: number, decimals = 4) => `${value < 0 ? "−" : "+"} ${n(Math.abs(value), decimals)}`;

/** How a target becomes what leaves the board, step by step. Given as text, to be read, copied and printed. */
export function workingOf(bench: JointBench, target: number): readonly Working[] {
  return [
    setPointWorking(bench, target),
    countWorking(bench, target),
    { heading: "The card as an equation", lines: equationsOf(bench) },
  ];
}

const endsOf = (knots: SpinCurve["knots"]) => ({
  backUs: knots[0]?.pulseUs ?? 0,
  forwardUs: knots.at(-1)?.pulseUs ?? 0,
});

function setPointWorking(bench: JointBench, target: number): Working {
  const { joint, card, map } = bench;
  const { axis } = joint;
  if (axis.kind === "spin" || card.kind === "continuous") {
    if (card.kind !== "continuous") return { heading: "From spin to pulse", lines: [] };
    const { knots, fullDegPerS, neutralUs } = spinCurveOf(card);
    const spin = axis.direction * target;
    if (fullDegPerS !== null || knots.length > 3)
      return {
        heading: "From spin to pulse",
        lines: [
          ...(fullDegPerS === null
            ? []
            : [`speed = ${n(spin)} × ${n(fullDegPerS)} °/s = ${n(spin * fullDegPerS)} °/s`]),
          `pulse = ${n(map.toSetPoint(target))} µs, between what was measured on either side of it`,
        ],
      };
    const { backUs, forwardUs } = endsOf(knots);
    const spanUs = spin < 0 ? neutralUs - backUs : forwardUs - neutralUs;
    return {
      heading: "From spin to pulse",
      lines: [
        `span on this side = ${spin < 0 ? `${n(neutralUs)} − ${n(backUs)}` : `${n(forwardUs)} − ${n(neutralUs)}`} = ${n(spanUs)} µs`,
        `pulse = ${n(neutralUs)} + ${n(spin)} × ${n(spanUs)} = ${n(map.toSetPoint(target))} µs`,
      ],
    };
  }
  const curve = curveOf(card);
  const servoDeg = servoDegOf(axis, target);
  const [name, unit] = card.kind === "smart" ? ["tick", "ticks"] : ["pulse", "µs"];
  return {
    heading: `From angle to ${name}`,
    lines: [
      `servo angle = zero ${axis.direction > 0 ? "+" : "−"} joint angle = ${n(axis.zeroDeg)} ${axis.direction > 0 ? "+" : "−"} ${target < 0 ? `(${n(target)})` : n(target)} = ${n(servoDeg)}°`,
      curve.kind === "line"
        ? `${name} = ${n(curve.slopePerDeg)} × ${n(servoDeg)} ${plus(curve.intercept)} = ${n(map.toSetPoint(target))} ${unit}`
        : `${name} = ${n(map.toSetPoint(target))} ${unit}, between the points that were measured on either side of ${n(servoDeg)}°`,
    ],
  };
}

function countWorking(bench: JointBench, target: number): Working {
  const { map, maker, board, card } = bench;
  const setPoint = map.toSetPoint(target);
  const count = maker.toCount(setPoint);
  const made = maker.toSetPoint(count);
  const unit = card.kind === "smart" ? "ticks" : "µs";
  const perTarget = map.targetUnit === "°" ? "°" : " of full speed";
  return {
    heading: `What ${board.label} makes of it`,
    lines: [
      ...encodingWorking(board.encoding, {
        askedHz: frameHzOf(board, bench.joint.channel),
        periodUs: maker.periodUs,
        setPoint,
      }),
      `which it can only load as ${n(count * maker.perCount)}, and that makes ${n(made)} ${unit}`,
      `error = ${n(made)} − ${n(setPoint)} = ${n(made - setPoint)} ${unit} = ${n(map.toTarget(made) - target)}${perTarget}`,
    ],
  };
}

/** The card's curve in each unit that a person's own program may use: slope and intercept over the servo's angle. */
export function equationsOf({ card, maker }: JointBench): readonly string[] {
  if (card.kind === "continuous") {
    const { knots, neutralUs, fullDegPerS } = spinCurveOf(card);
    const { backUs, forwardUs } = endsOf(knots);
    return [
      `pulse µs = ${n(neutralUs)} + ${n(forwardUs - neutralUs)} × spin, for spin ≥ 0`,
      `pulse µs = ${n(neutralUs)} + ${n(neutralUs - backUs)} × spin, for spin < 0`,
      ...(fullDegPerS === null ? [] : [`a spin of 1 is ${n(fullDegPerS)} °/s, measured`]),
      ...(knots.length > 3 ? ["the card’s curve has more points: these are straight lines to its ends"] : []),
    ];
  }
  const curve = curveOf(card);
  const { lines, integer } = equationsFor(curve, maker, card.travelDeg);
  return [
    ...lines,
    ...(integer
      ? [
          `${integer.line}, in whole numbers; tenths of a degree; off by ${n(integer.worstCounts, 3)} of a ${maker.countName} at most`,
        ]
      : []),
    "angle is the servo's own, in degrees",
    ...(curve.kind === "piecewise"
      ? ["the card’s curve is piecewise: these are the straight lines nearest to it"]
      : []),
  ];
}
