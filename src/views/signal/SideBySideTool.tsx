import { encodingNames, newEncoding } from "@core/encodings";
import { type Contender, compareBoard, comparedAngles } from "@core/position";
import { frameHzOf } from "@core/project";
import { useProject } from "@stores/document";
import { useMemo, useState } from "react";
import { LinesChart } from "../parts/Chart";
import { formatNumber } from "../parts/format";
import type { SignalToolProps } from "./toolProps";

/** Ways that anybody may compare with, beside the project's own boards. */
const usual: readonly Contender[] = [
  {
    id: "u8",
    label: "8-bit duty",
    encoding: { kind: "counts", bits: 8, fullScale: "2^n-1", rounding: "round" },
    frameHz: 50,
  },
  {
    id: "u10",
    label: "10-bit duty",
    encoding: { kind: "counts", bits: 10, fullScale: "2^n-1", rounding: "round" },
    frameHz: 50,
  },
  { id: "u12", label: "12-bit duty", encoding: newEncoding("counts"), frameHz: 50 },
  {
    id: "u16",
    label: "16-bit duty",
    encoding: { kind: "counts", bits: 16, fullScale: "2^n-1", rounding: "truncate" },
    frameHz: 50,
  },
  { id: "p1", label: "Whole per cent", encoding: { kind: "percent", stepPercent: 1, rounding: "round" }, frameHz: 50 },
  { id: "p01", label: "Tenths of a per cent", encoding: newEncoding("percent"), frameHz: 50 },
  { id: "t16", label: "16-bit timer, 0.4 µs", encoding: newEncoding("timer"), frameHz: 50 },
  { id: "us", label: "Call in whole µs", encoding: newEncoding("microseconds"), frameHz: 50 },
  {
    id: "sw",
    label: "Software, 10 µs sleeps",
    encoding: { ...newEncoding("software"), granularityUs: 10 },
    frameHz: 50,
  },
];
const drawnEvery = 6;

/** The same servo on several boards: frame, step, error over the whole travel, and the angles that can be reached. */
export default function SideBySideTool({ bench }: SignalToolProps) {
  const { card, joint, board } = bench;
  const boards = useProject((project) => project.boards);
  const [chosenIds, setChosenIds] = useState<readonly string[]>([board.id, "u8", "u16"]);
  const contenders = useMemo(
    () => [
      ...boards
        .filter((one) => one.encoding.kind !== "bus")
        .map(
          (one): Contender => ({
            id: one.id,
            label: one.label,
            encoding: one.encoding,
            frameHz: frameHzOf(one, one.id === joint.boardId ? joint.channel : 0),
          }),
        ),
      ...usual,
    ],
    [boards, joint],
  );
  const chosen = contenders.filter((one) => chosenIds.includes(one.id));
  const isComparable = card.kind === "positional";
  const angles = useMemo(() => (isComparable ? comparedAngles(card) : new Float64Array(0)), [card, isComparable]);
  const results = useMemo(
    () => (isComparable ? chosen.map((one) => compareBoard(card, one, angles)) : []),
    [card, isComparable, chosen, angles],
  );
  if (!isComparable)
    return <p className="caption">Boards are compared over the angles of a hobby servo; {joint.label} has none.</p>;
  const points = Array.from(angles)
    .map((x, at) => ({
      x,
      ...Object.fromEntries(results.map((result) => [result.contender.id, result.errorsDeg[at] as number])),
    }))
    .filter((_, at) => at % drawnEvery === 0);
  return (
    <div className="grid h-full grid-cols-[13rem_minmax(0,1fr)] gap-5">
      <fieldset className="min-h-0 overflow-y-auto shows-more">
        <legend className="caption pb-1">Compare for {card.label}</legend>
        {contenders.map((one) => (
          <label
            key={one.id}
            className="flex cursor-pointer items-center gap-2 py-1"
            title={encodingNames[one.encoding.kind]}
          >
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={chosenIds.includes(one.id)}
              onChange={() =>
                setChosenIds(
                  chosenIds.includes(one.id) ? chosenIds.filter((id) => id !== one.id) : [...chosenIds, one.id],
                )
              }
            />
            {one.label}
          </label>
        ))}
      </fieldset>
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto shows-more">
        <table className="w-full text-right" data-readout="comparison">
          <caption className="sr-only">The same servo on several boards</caption>
          <thead className="caption">
            <tr>
              <th className="text-left font-normal">Board</th>
              <th className="font-normal">true frame</th>
              <th className="font-normal">step</th>
              <th className="font-normal">in degrees</th>
              <th className="font-normal">worst error</th>
              <th className="font-normal">mean error</th>
              <th className="font-normal">reaches</th>
            </tr>
          </thead>
          <tbody className="number">
            {results.map((result) => (
              <tr key={result.contender.id} className="border-t border-base-300">
                <th scope="row" className="py-1 text-left font-sans font-medium">
                  {result.contender.label}
                </th>
                <td>{formatNumber(result.frameHz, 2)} Hz</td>
                <td>{formatNumber(result.stepUs, 3)} µs</td>
                <td>{formatNumber(result.stepDeg, 3)}°</td>
                <td>{formatNumber(result.worstErrorDeg, 3)}°</td>
                <td>{formatNumber(result.meanErrorDeg, 3)}°</td>
                <td>
                  {formatNumber(result.lowestDeg, 1)}…{formatNumber(result.highestDeg, 1)}°
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {results.length === 0 ? (
          <p className="caption">Choose boards on the left to lay them side by side.</p>
        ) : (
          <div className="min-h-56 grow">
            <LinesChart
              label="Error against angle"
              points={points}
              lines={results.map((result) => ({ key: result.contender.id, label: result.contender.label }))}
              xUnit="°"
              yUnit="°"
            />
          </div>
        )}
      </div>
    </div>
  );
}
