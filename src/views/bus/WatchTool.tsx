import { alarmsOf, registerFor } from "@core/bus";
import { type Alarms, byId, editCard, type SmartCard } from "@core/project";
import { type BusReport, busStore, type HeardPoint } from "@stores/bus";
import { type Device, deviceName } from "@stores/busBench";
import { editForField, useProject } from "@stores/document";
import { askSimulation } from "@stores/live";
import { useStore } from "zustand";
import { Fetched } from "../parts/Fetched";
import { formatNumber } from "../parts/format";
import { HoldSwitch } from "../parts/HoldSwitch";
import { LinesChart } from "../parts/LinesChart";
import { QuantityField } from "../parts/QuantityField";
import { MoveFree } from "./MoveFree";
import type { BusToolProps } from "./toolProps";

/** What the chosen servo was asked and where it stands, how hard it pushes, its supply and its heat, over the last minute. */
export default function WatchTool({ bus }: BusToolProps) {
  const device = bus.chosen;
  if (!device) return <p className="caption">Scan the wire first, and choose one of those who answer.</p>;
  if (!device.joint) return <MoveFree key={`${device.layout.id} ${device.id}`} bus={bus} device={device} />;
  return <WatchJoint bus={bus} device={device} />;
}

const none: readonly HeardPoint[] = [];
const strips = {
  position: [
    ["asked", "asked"],
    ["actual", "actual"],
  ],
  load: [["load", "load"]],
  supply: [["volts", "supply"]],
  heat: [["temperature", "case"]],
} as const;

/** Only what a person acts on is drawn here; what the servo says ten times a second has parts of its own. */
function WatchJoint({ bus, device }: BusToolProps & { readonly device: Device }) {
  const isLimp = useStore(busStore, ({ report }) => toldOf(report, device.id)?.phase === "limp");
  const cards = useProject((project) => project.cards);
  const { joint } = device;
  if (!joint) return null;
  const card = byId(cards, joint.cardId) as SmartCard;
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="heading mr-auto">
          {deviceName(device)}, number {device.id}
        </h2>
        <HandMoves bus={bus} joint={joint} cardId={card.id} isLimp={isLimp} />
        <HoldSwitch joint={joint} />
      </div>
      <Readings device={device} alarms={card.alarms} />
      <Fetched fallback={<p className="caption">Fetching the charts…</p>}>
        <Strips deviceId={device.id} />
      </Fetched>
      <AlarmFields card={card} />
    </div>
  );
}

const toldOf = (report: BusReport | null, deviceId: number) => report?.devices.find(({ id }) => id === deviceId);

/** What it said last, in numbers, and what of that is beyond its limits. */
function Readings({ device, alarms }: { readonly device: Device; readonly alarms: Alarms }) {
  const state = useStore(busStore, ({ report }) => toldOf(report, device.id));
  const now = state && state.phase !== "silent" ? state : undefined;
  const beyond = now ? alarmsOf(alarms, now.telemetry) : [];
  const gap = now ? now.telemetry.position - now.wanted : Number.NaN;
  const degPerTick = registerFor(device.layout, "position")?.scale ?? 1;
  return (
    <>
      {beyond.length > 0 && (
        <p role="alert" className="rounded-box border border-error px-3 py-1.5 text-error">
          Beyond its limits: {beyond.join("; ")}.
        </p>
      )}
      <dl className="grid grid-cols-6 gap-2 text-center">
        <Reading name="asked" value={now?.wanted} unit="ticks" decimals={0} />
        <Reading name="actual" value={now?.telemetry.position} unit="ticks" decimals={0} />
        <Reading name="apart" value={gap * degPerTick} unit="°" decimals={1} />
        <Reading name="load" value={now?.telemetry.loadPercent} unit="%" decimals={0} />
        <Reading name="supply" value={now?.telemetry.volts} unit="V" decimals={1} />
        <Reading name="case" value={now?.telemetry.temperatureC} unit="°C" decimals={0} />
      </dl>
    </>
  );
}

function Strips({ deviceId }: { readonly deviceId: number }) {
  const history = useStore(busStore, (state) => state.history.get(deviceId)) ?? none;
  return (
    <div className="grid grid-cols-2 gap-3">
      <Strip history={history} label="Asked against actual" unit="ticks" lines={strips.position} />
      <Strip history={history} label="Load" unit="%" lines={strips.load} />
      <Strip history={history} label="Supply" unit="V" lines={strips.supply} />
      <Strip history={history} label="Heat" unit="°C" lines={strips.heat} />
    </div>
  );
}

function Reading({
  name,
  value,
  unit,
  decimals,
}: {
  name: string;
  value: number | null | undefined;
  unit: string;
  decimals: number;
}) {
  return (
    <div className="sheet !p-2">
      <dt className="caption">{name}</dt>
      <dd className="number text-lg">
        {formatNumber(value ?? Number.NaN, decimals)} <span className="caption">{unit}</span>
      </dd>
    </div>
  );
}

interface StripProps {
  readonly history: readonly HeardPoint[];
  readonly label: string;
  readonly unit: string;
  readonly lines: readonly (readonly [keyof HeardPoint, string])[];
}

function Strip({ history, label, unit, lines }: StripProps) {
  return (
    <figure className="sheet !p-2">
      <figcaption className="caption">
        {label}, {unit}
      </figcaption>
      <div className="h-52">
        <LinesChart
          label={label}
          points={history}
          lines={lines.map(([key, words]) => ({ key, label: words }))}
          xUnit="s"
          yUnit=""
        />
      </div>
    </figure>
  );
}

interface HandMovesProps extends BusToolProps {
  readonly joint: NonNullable<Device["joint"]>;
  readonly cardId: string;
  readonly isLimp: boolean;
}

/** A real arm is taken by the hand; this one, being simulated, by these. */
function HandMoves({ bus, cardId, isLimp, joint }: HandMovesProps) {
  const turn = (byDeg: number) => askSimulation(bus.board.id, { kind: "turnByHand", key: cardId, byDeg });
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset brings a frame that these have not.
    <span className="join" role="group" aria-label={`Turn ${joint.label} by hand`}>
      {[-10, -2, 2, 10].map((byDeg) => (
        <button
          key={byDeg}
          type="button"
          className="btn btn-sm btn-outline join-item"
          disabled={!isLimp}
          title={
            isLimp ? "As a hand would turn the limp arm" : "It is held, and stronger than a hand: release it first"
          }
          onClick={() => turn(byDeg)}
        >
          by hand {byDeg > 0 ? "+" : "−"}
          {Math.abs(byDeg)}°
        </button>
      ))}
    </span>
  );
}

const alarmFields: readonly (readonly [keyof Alarms, string, string])[] = [
  ["highestC", "hotter than", "°C"],
  ["lowestV", "less than", "V"],
  ["highestV", "more than", "V"],
  ["highestLoad", "load above", "%"],
];

function AlarmFields({ card }: { readonly card: SmartCard }) {
  const keep = (field: keyof Alarms, value: number | null) =>
    editForField(
      editCard(card.id, "alarms", (one) =>
        one.kind === "smart" ? { ...one, alarms: { ...one.alarms, [field]: value } } : one,
      ),
    );
  return (
    <section className="sheet flex flex-wrap items-start gap-3" aria-label="Alarm limits">
      <h2 className="heading mr-4">Tell me when it is</h2>
      {alarmFields.map(([field, label, unit]) => (
        <QuantityField
          key={field}
          label={label}
          className="w-28"
          value={card.alarms[field] ?? Number.NaN}
          unit={unit}
          decimals={1}
          emptyWords="never"
          onEmpty={() => keep(field, null)}
          onCommit={(value) => (value > 0 ? keep(field, value) : "A limit is above zero; empty is never.")}
        />
      ))}
      <p className="caption self-end">Empty is never. It is kept on the servo’s card.</p>
    </section>
  );
}
