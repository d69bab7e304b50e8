import { amps, drawOf, plugWords, type Said } from "@core/power";
import {
  type BoardPower,
  byId,
  type CardPower,
  type PlugOrder,
  type Project,
  plugOrders,
  removeRail,
  setBoardPower,
  setCardPower,
  setRail,
  usualBoardPower,
  usualCardPower,
} from "@core/project";
import { edit, editForField } from "@stores/document";
import { choosePower } from "@stores/powerView";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";
import { MeasureFields } from "./MeasureFields";
import { PlugPicture } from "./PlugPicture";
import { ThingHead } from "./ThingHead";
import type { Flow } from "./useFlow";
import { VoltField } from "./VoltField";

const orders = plugOrders.map((order) => [order, plugWords(order)] as const);

export function RailFields({ project, railId }: { readonly project: Project; readonly railId: string }) {
  const rail = byId(project.rails, railId);
  return (
    <ThingHead
      label={rail.label}
      what="rail"
      onRename={(label) => edit(setRail({ ...rail, label }))}
      onRemove={() => {
        edit(removeRail(rail.id));
        choosePower(null);
      }}
    />
  );
}

/** What a board needs, and what its signals are. */
export function BoardPowerFields({ project, boardId }: { readonly project: Project; readonly boardId: string }) {
  const board = byId(project.boards, boardId);
  const power = board.power ?? usualBoardPower;
  const set = (part: Partial<BoardPower>) => editForField(setBoardPower(boardId, { ...power, ...part }));
  const isBus = board.encoding.kind === "bus";
  return (
    <div className="flex flex-col gap-2">
      <h3 className="heading">{board.label}</h3>
      {!board.power && <p className="caption">Nobody has said anything of it: these are the usual numbers.</p>}
      <div className="grid grid-cols-2 gap-2">
        <QuantityField
          label="Draws for itself"
          value={power.drawMa}
          unit="mA"
          units={{ mA: 1, A: 1000 }}
          decimals={0}
          step={10}
          onCommit={(drawMa) => set({ drawMa })}
        />
        <VoltField
          label="Starts anew below"
          value={power.lowestVolts}
          onCommit={(lowestVolts) => set({ lowestVolts })}
        />
        {!isBus && (
          <VoltField label="Signals of" value={power.logicVolts} onCommit={(logicVolts) => set({ logicVolts })} />
        )}
        {isBus && (
          <QuantityField
            label="Bus, end to end"
            value={power.busMm / 1000}
            unit="m"
            units={{ m: 1, cm: 0.01, mm: 0.001 }}
            decimals={2}
            step={0.1}
            onCommit={(m) => set({ busMm: m * 1000 })}
          />
        )}
      </div>
      {isBus ? (
        <label className="flex cursor-pointer items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={power.hasBusEnd}
            onChange={() => void set({ hasBusEnd: !power.hasBusEnd })}
          />
          A resistor closes the end of the bus
        </label>
      ) : (
        <ChoiceField
          label="Its pins, from the edge of the board"
          value={power.header}
          choices={orders}
          onChoose={(header: PlugOrder) => void set({ header })}
        />
      )}
    </div>
  );
}

const saidWords: Readonly<Record<Said, string>> = { measured: "measured", sheet: "by its sheet", model: "by a model" };

/** What a servo draws, and how its plug is made. */
export function CardPowerFields({
  project,
  jointId,
  flow,
}: {
  readonly project: Project;
  readonly jointId: string;
  readonly flow: Flow;
}) {
  const joint = byId(project.joints, jointId);
  const card = byId(project.cards, joint.cardId);
  const power = card.power ?? usualCardPower;
  const draw = drawOf(card);
  const set = (part: Partial<CardPower>) => editForField(setCardPower(card.id, { ...power, ...part }));
  const { wires, rating } = card;
  const board = byId(project.boards, joint.boardId);
  const at = flow.net.places.findIndex(({ kind, id }) => kind === "joint" && id === jointId);
  return (
    <div className="flex flex-col gap-2">
      <h3 className="heading">{joint.label}</h3>
      <dl className="grid grid-cols-[auto_auto_1fr] gap-x-3 text-sm" data-draws>
        {(
          [
            ["at rest", draw.idleA, draw.said.idle],
            ["turning", draw.movingA, draw.said.moving],
            ["held fast, or starting", draw.stallA, draw.said.stall],
          ] as const
        ).map(([name, value, said]) => (
          <div key={name} className="contents">
            <dt className="caption">{name}</dt>
            <dd className="number text-right">{amps(value)}</dd>
            <dd className="caption">{saidWords[said]}</dd>
          </div>
        ))}
      </dl>
      <p className="caption">
        At {rating.atVolts} V
        {rating.supplyVolts ? `; its card allows ${rating.supplyVolts.low} to ${rating.supplyVolts.high} V` : ""}
        {flow.net.isFed[at] ? `; ${(flow.solved.volts[at] ?? 0).toFixed(2)} V reach it` : ""}. Wires:{" "}
        {wires.ground || "?"} is ground, {wires.supply || "?"} supply, {wires.signal || "?"} signal.{" "}
        <a className="link" href={`/cards#${card.id}`}>
          Its card
        </a>
      </p>
      <MeasureFields key={jointId} project={project} jointId={jointId} />
      <ChoiceField
        label="Its plug, from the edge"
        value={power.plug}
        choices={orders}
        onChoose={(plug: PlugOrder) => void set({ plug })}
      />
      <PlugPicture
        plug={power.plug}
        header={board.encoding.kind === "bus" ? null : (board.power ?? usualBoardPower).header}
        wires={wires}
      />
      <VoltField
        label="Its signal counts as high from"
        value={power.highVolts ?? Number.NaN}
        emptyWords="the sheet does not say"
        onEmpty={() => set({ highVolts: null })}
        onCommit={(highVolts) => set({ highVolts })}
      />
    </div>
  );
}
