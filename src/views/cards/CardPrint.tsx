import { lineError, reportCheck } from "@core/calibrate";
import { type Joint, type ServoCard, setPointUnit } from "@core/project";
import { calibrationInForce, cardState, curveFrom, curveOf, knownPlayDeg, spinCurveOf } from "@core/servo";
import { useProject } from "@stores/document";
import type { ReactNode } from "react";
import { formatDate, formatNumber } from "../parts/format";
import { PrintSheet } from "../parts/PrintSheet";
import { stateWords } from "./stateWords";

interface CardPrintProps {
  readonly card: ServoCard;
  readonly joint: Joint | null;
  readonly onDone: () => void;
}

/** One servo's card for paper: it goes into the box with the servo. */
export function CardPrint({ card, joint, onDone }: CardPrintProps) {
  return (
    <PrintSheet onDone={onDone}>
      <CardDrawing card={card} joint={joint} />
    </PrintSheet>
  );
}

/** The card as a workshop drawing has its title block: ruled boxes, small names, large numbers. */
export function CardDrawing({ card, joint }: Omit<CardPrintProps, "onDone">) {
  const board = useProject((project) => project.boards.find((one) => one.id === joint?.boardId));
  const rig = useProject((project) => project.rigs.find((one) => one.id === joint?.rigId));
  const unit = setPointUnit(card);
  const made = calibrationInForce(card);
  const check = card.checks.at(-1);
  const n = (value: number | null, decimals = 0) => formatNumber(value ?? Number.NaN, decimals);
  return (
    <section className="mb-[6mm] w-[180mm] border border-black text-[9pt]">
      <div className="grid grid-cols-[2fr_1fr_1fr] border-b border-black">
        <Box name="servo">
          <strong className="text-[13pt]">{card.label}</strong>
        </Box>
        <Box name="built in">{joint ? `${rig?.label ?? ""}, ${joint.label}` : "—"}</Box>
        <Box name="wired to">
          {board && joint ? `${board.label}, ${card.kind === "smart" ? "id" : "channel"} ${joint.channel}` : "—"}
        </Box>
      </div>
      <div className="grid grid-cols-4 border-b border-black">
        <Box name={`hard window, ${unit}`}>
          {n(card.window.low)} … {n(card.window.high)}
        </Box>
        <Box name={`end stops, ${unit}`}>
          {n(card.endStops.low)} … {n(card.endStops.high)}
        </Box>
        <Box name="travel limits, home">
          {joint?.axis.kind === "angle"
            ? `${n(joint.axis.travel.low, 1)}° … ${n(joint.axis.travel.high, 1)}°, ${n(joint.axis.homeDeg, 1)}°`
            : "—"}
        </Box>
        <Box name="state">{stateWords(cardState(card, Date.now()))}</Box>
      </div>
      <div className="grid grid-cols-4 border-b border-black">
        <Box name="curve" isWide>
          {curveWords(card)}
          {made && <span className="block text-[7.5pt]">made {formatDate(made.madeAt)}</span>}
        </Box>
        <Box name="checked">{check && card.kind !== "continuous" ? checkWords(card, check) : "—"}</Box>
        <Box name="wires: ground, supply, signal">
          {card.wires.ground}, {card.wires.supply}, {card.wires.signal}
        </Box>
      </div>
      <div className="grid grid-cols-4 border-b border-black">
        <Box name="speed">
          {n(card.rating.secPer60Deg, 2)} s/60° at {n(card.rating.atVolts, 1)} V
        </Box>
        <Box name="torque">{n(card.rating.torqueKgCm, 1)} kg·cm</Box>
        <Box name="current idle, moving, highest, stall, mA">
          {n(card.currents.idleMa)}, {n(card.currents.movingMa)}, {n(card.currents.highestMa)}, {n(card.rating.stallMa)}
        </Box>
        <Box name="spline, supply">
          {card.splineTeeth} teeth, {n(card.rating.supplyVolts?.low ?? null, 1)} …{" "}
          {n(card.rating.supplyVolts?.high ?? null, 1)} V
        </Box>
      </div>
      <Box name="notes">{card.notes || " "}</Box>
    </section>
  );
}

interface BoxProps {
  readonly name: string;
  readonly isWide?: boolean;
  readonly children: ReactNode;
}

const Box = ({ name, isWide = false, children }: BoxProps) => (
  <div className={`border-r border-black/60 px-[2mm] py-[1mm] last:border-r-0 ${isWide ? "col-span-2" : ""}`}>
    <div className="text-[6.5pt] leading-tight">{name}</div>
    <div className="number leading-snug">{children}</div>
  </div>
);

function curveWords(card: ServoCard): string {
  if (card.kind === "continuous") {
    const { neutralUs, fullDegPerS } = spinCurveOf(card);
    const full = fullDegPerS === null ? "" : `, spin 1 is ${formatNumber(fullDegPerS, 0)} °/s`;
    return `neutral ${formatNumber(neutralUs, 1)} µs${full}`;
  }
  const { kind, slopePerDeg, intercept } = curveOf(card);
  const name = card.kind === "smart" ? "tick" : "pulse µs";
  const about = kind === "piecewise" ? "≈" : "=";
  const made = calibrationInForce(card);
  const error = made && made.kind !== "spin" ? lineError(made.points) : null;
  const within = error
    ? `, ± ${formatNumber(error.slopePerDeg, 3)} and ± ${formatNumber(error.intercept, 1)}: true to ${formatNumber(error.endDeg + (knownPlayDeg(card) ?? 0) / 2, 1)}° at the ends`
    : "";
  return `${name} ${about} ${formatNumber(slopePerDeg, 3)} × angle ${intercept < 0 ? "−" : "+"} ${formatNumber(Math.abs(intercept), 1)}${within}`;
}

function checkWords(card: Exclude<ServoCard, { kind: "continuous" }>, check: ServoCard["checks"][number]): string {
  const made = card.calibrations.find((one) => one.id === check.calibrationId);
  const { meanDeg, largestDeg } = reportCheck(curveFrom(card, made), check.readings);
  return `${formatDate(check.madeAt).slice(0, 10)}: mean ${formatNumber(meanDeg, 1)}°, largest ${formatNumber(largestDeg, 1)}°`;
}
