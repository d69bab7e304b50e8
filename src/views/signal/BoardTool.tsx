import { type EncodingKind, encodingNames, newEncoding } from "@core/encodings";
import { boardProblems } from "@core/position";
import { groupOf, groupSizeOf, setEncoding, setFrameGroups, setFrameHz } from "@core/project";
import { frequencyUnitsHz, signalMakerOf } from "@core/signal";
import { edit, editForField, useProject } from "@stores/document";
import { ChoiceField } from "../parts/ChoiceField";
import { Fact } from "../parts/Fact";
import { formatNumber } from "../parts/format";
import { QuantityField } from "../parts/QuantityField";
import { EncodingFields } from "./EncodingFields";
import type { SignalToolProps } from "./toolProps";

/** The board of this joint: how it makes its signals, and which channels share a frame rate. */
export default function BoardTool({ bench }: SignalToolProps) {
  const { board, joint, card, maker } = bench;
  const joints = useProject((project) => project.joints);
  const isBus = board.encoding.kind === "bus";
  const size = groupSizeOf(board);
  const own = groupOf(board, joint.channel);
  const kinds = (Object.keys(encodingNames) as EncodingKind[]).filter((kind) => (kind === "bus") === isBus);
  const divisions = [1, 2, 4, 8, 16].filter((groups) => groups <= board.channels);
  return (
    <div className="grid h-full grid-cols-2 gap-5 overflow-y-auto shows-more">
      <section className="sheet space-y-3 self-start" aria-label={`How ${board.label} makes signals`}>
        <h2 className="heading">How {board.label} makes its signals</h2>
        <ChoiceField
          label="Way"
          value={board.encoding.kind}
          choices={kinds.map((kind) => [kind, encodingNames[kind]])}
          onChoose={(kind) => edit(setEncoding(board.id, newEncoding(kind)))}
        />
        <EncodingFields
          encoding={board.encoding}
          onEncoding={(encoding) => editForField(setEncoding(board.id, encoding))}
        />
        <dl className="grid grid-cols-3 gap-3 border-t border-base-300 pt-3" data-readout="board">
          <Fact name="true frame" value={`${formatNumber(1e6 / maker.periodUs, 3)} Hz`} />
          <Fact name="period" value={`${formatNumber(maker.periodUs, 2)} µs`} />
          <Fact name="one step" value={isBus ? "1 tick" : `${formatNumber(maker.step, 3)} µs`} />
        </dl>
        {boardProblems(board, card, joint.channel).map((sentence) => (
          <p key={sentence} role="alert" className="text-sm text-error">
            {sentence}
          </p>
        ))}
      </section>
      <section className="sheet space-y-3 self-start" aria-label="Frame rates">
        <h2 className="heading">Frame rates</h2>
        {!isBus && (
          <ChoiceField
            label="Channels that share one rate"
            value={String(board.frameHz.length)}
            choices={divisions.map((groups) => [
              String(groups),
              groups === 1 ? `all ${board.channels}` : `groups of ${Math.ceil(board.channels / groups)}`,
            ])}
            onChoose={(groups) => edit(setFrameGroups(board.id, Number(groups)))}
          />
        )}
        {board.frameHz.map((frameHz, group) => {
          const first = group * size;
          const last = Math.min(first + size, board.channels) - 1;
          const here = joints.filter((one) => one.boardId === board.id && groupOf(board, one.channel) === group);
          const others = here.filter((one) => one.id !== joint.id).map((one) => one.label);
          const made = 1e6 / signalMakerOf(board, first).periodUs;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: a group is its place.
            <div key={group} className="border-t border-base-300 pt-2">
              <QuantityField
                label={
                  isBus ? "Frames on the bus" : first === last ? `Channel ${first}` : `Channels ${first} to ${last}`
                }
                value={frameHz}
                unit="Hz"
                decimals={2}
                units={frequencyUnitsHz}
                step={1}
                onCommit={(value) => editForField(setFrameHz(board.id, group, value))}
              />
              <p className="caption mt-1">
                Really {formatNumber(made, 3)} Hz.{" "}
                {group === own && others.length > 0
                  ? `Mind: this also changes ${others.join(", ")}, which share it with ${joint.label}.`
                  : here.length > 0
                    ? `Drives ${here.map((one) => one.label).join(", ")}.`
                    : "Nothing is wired here."}
              </p>
            </div>
          );
        })}
      </section>
    </div>
  );
}
