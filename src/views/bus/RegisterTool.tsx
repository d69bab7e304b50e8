import {
  checkRaw,
  rawOf,
  readSettings,
  registerFor,
  settingsOf,
  shownOf,
  torqueRule,
  wordsOf,
  writeSettings,
} from "@core/bus";
import { readNumber } from "@core/numbers";
import { type Register, rewireJoint } from "@core/project";
import { askBus, busStore, runOnBus } from "@stores/bus";
import { type Device, deviceName } from "@stores/busBench";
import { edit } from "@stores/document";
import { type ReactNode, useEffect, useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { Sheet } from "../parts/Sheet";
import { saveFile } from "../parts/saveFile";
import { RunBar } from "./RunBar";
import type { BusToolProps } from "./toolProps";
import { useValues } from "./useValues";

/** The registers of the chosen device by their meaning: read, write, watch, compare, save, restore. */
export default function RegisterTool({ bus }: BusToolProps) {
  const device = bus.chosen;
  if (!device) return <p className="caption">Scan the wire first, and choose one of those who answer.</p>;
  return <Registers key={`${device.layout.id} ${device.id}`} bus={bus} device={device} />;
}

function Registers({ bus, device }: BusToolProps & { readonly device: Device }) {
  const { layout, id, joint } = device;
  const mine = useValues(bus, device);
  const [otherKey, setOtherKey] = useState("");
  const others = bus.devices.filter((one) => one.layout.id === layout.id && one !== device);
  const other = others.find((one) => String(one.id) === otherKey) ?? null;
  const theirs = useValues(bus, other);
  const [asked, setAsked] = useState<{ register: Register; raw: number } | null>(null);
  const [watched, setWatched] = useState<readonly number[]>([]);
  const [perSecond, setPerSecond] = useState("5");
  const live = useStore(busStore, ({ report }) => report?.watched) ?? null;
  const isRunning = useStore(busStore, ({ running }) => running !== null);
  useEffect(() => {
    const watch =
      watched.length > 0 ? { layoutId: layout.id, id, addresses: watched, everyMs: 1000 / Number(perSecond) } : null;
    askBus(bus.board.id, { kind: "watchRegisters", watch });
    return () => askBus(bus.board.id, { kind: "watchRegisters", watch: null });
  }, [bus.board.id, layout.id, id, watched, perSecond]);

  const write = async (register: Register, raw: number, throughTorque: boolean) => {
    const isDone = await mine.write(register, raw, throughTorque);
    if (register.role === "id" && isDone && joint) edit(rewireJoint(joint.id, bus.board.id, raw));
  };
  const ask = (register: Register, shown: number): string | null => {
    const raw = rawOf(register, shown);
    const checked = checkRaw(register, raw);
    if (!checked.ok) return checked.problem;
    const torque = registerFor(layout, "torque");
    // Of a joint it is known at every moment; of another, what it said when it was read.
    const isOn = joint ? device.phase !== "limp" : torque !== null && mine.values?.get(torque.address) !== 0;
    // Never behind a person's back: what lets go of a load is asked for first.
    if (torqueRule(layout, register, isOn) === "torque first") setAsked({ register, raw });
    else void write(register, raw, false);
    return null;
  };

  return (
    <div className="flex h-full min-h-0 flex-col gap-2">
      <div className="flex flex-wrap items-end gap-2">
        <h2 className="heading mr-2">
          {deviceName(device)}, number {id}
        </h2>
        <button type="button" className="btn btn-sm btn-outline" disabled={isRunning} onClick={() => void mine.read()}>
          Read all
        </button>
        <ChoiceField
          label="Compare with"
          className="w-40"
          value={otherKey}
          choices={[["", "nobody"], ...others.map((one) => [String(one.id), deviceName(one)] as const)]}
          onChoose={setOtherKey}
        />
        <ChoiceField
          label="Watched, a second"
          className="w-32"
          value={perSecond}
          choices={["1", "2", "5", "10", "20"].map((rate) => [rate, `${rate} times`])}
          onChoose={setPerSecond}
        />
        <SettingsFiles
          bus={bus}
          device={device}
          values={mine.values}
          onSaid={mine.say}
          onDone={() => void mine.read()}
        />
      </div>
      <RunBar />
      <p role="status" className={`min-h-5 text-sm ${mine.isBad ? "text-error" : ""}`}>
        {mine.said}
      </p>
      <table className="table table-xs">
        <thead className="sticky top-0 bg-base-100 text-base-content">
          <tr>
            <th>Address</th>
            <th>Register</th>
            <th className="text-right">Holds</th>
            {other && <th className="text-right">{deviceName(other)}</th>}
            <th>Write</th>
            <th>Watch</th>
          </tr>
        </thead>
        <tbody>
          {layout.registers.map((register) => {
            const raw =
              (watched.includes(register.address) ? live?.get(register.address) : undefined) ??
              mine.values?.get(register.address);
            const their = theirs.values?.get(register.address);
            const differs = other && raw !== undefined && their !== undefined && raw !== their;
            return (
              <tr key={register.address} className={differs ? "bg-base-200" : ""}>
                <td className="number">{register.address}</td>
                <td title={register.meaning}>
                  <span className="font-medium">{register.label}</span>{" "}
                  <span className="caption">
                    {register.memory === "stored" ? "stored" : ""}
                    {register.needsTorqueOff ? ", torque off" : ""}
                  </span>
                </td>
                <Held register={register} raw={raw} />
                {other && (
                  <Held register={register} raw={their}>
                    {differs ? "≠ " : ""}
                  </Held>
                )}
                <td>
                  {register.access === "write" && (
                    <Write register={register} raw={raw} onAsk={ask} isDisabled={isRunning} />
                  )}
                </td>
                <td>
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    aria-label={`Watch ${register.label}`}
                    checked={watched.includes(register.address)}
                    onChange={(event) =>
                      setWatched(
                        event.target.checked
                          ? [...watched, register.address]
                          : watched.filter((one) => one !== register.address),
                      )
                    }
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {asked && (
        <Sheet label="Switch the torque off for it" onClose={() => setAsked(null)}>
          <h2 className="heading text-lg">{deviceName(device)} must let go for a moment</h2>
          <p className="my-3">
            {asked.register.label} can be written only with the torque off. Hold what hangs on it: the torque goes off,
            the register is written, and the torque comes on again where the servo then stands.
          </p>
          <div className="flex gap-2">
            <button type="button" className="btn btn-outline btn-sm" onClick={() => setAsked(null)}>
              Leave it
            </button>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              onClick={() => {
                void write(asked.register, asked.raw, true);
                setAsked(null);
              }}
            >
              Off, write, on again
            </button>
          </div>
        </Sheet>
      )}
    </div>
  );
}

function Held({
  register,
  raw,
  children,
}: {
  readonly register: Register;
  readonly raw: number | undefined;
  readonly children?: ReactNode;
}) {
  if (raw === undefined) return <td className="text-right">—</td>;
  const words = wordsOf(register, raw);
  return (
    <td className="text-right whitespace-nowrap">
      {children}
      <span className="number">{words}</span> {words !== String(raw) && <span className="caption number">{raw}</span>}
    </td>
  );
}

interface WriteProps {
  readonly register: Register;
  readonly raw: number | undefined;
  readonly isDisabled: boolean;
  readonly onAsk: (register: Register, shown: number) => string | null;
}

function Write({ register, raw, isDisabled, onAsk }: WriteProps) {
  const [typed, setTyped] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const label = `New ${register.label.toLowerCase()}`;
  if (register.choices.length > 0)
    return (
      <select
        className="select select-xs w-36"
        aria-label={label}
        disabled={isDisabled}
        value={raw ?? ""}
        onChange={(event) => setTrouble(onAsk(register, shownOf(register, Number(event.target.value))))}
      >
        {raw === undefined && <option value="">—</option>}
        {register.choices.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.label}
          </option>
        ))}
      </select>
    );
  const take = () => {
    if (typed.trim() === "") return;
    const shown = readNumber(typed);
    const refusal = typeof shown === "number" ? onAsk(register, shown) : shown;
    setTrouble(refusal);
    if (refusal === null) setTyped("");
  };
  return (
    <span className="flex items-center gap-1">
      <input
        className={`input input-xs w-20 ${trouble ? "input-error" : ""}`}
        aria-label={label}
        aria-invalid={trouble !== null}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== "Enter" || isDisabled) return;
          // The same stroke must not press a button of the question that it opens.
          event.preventDefault();
          take();
        }}
      />
      <span className="caption">{register.unit}</span>
      {trouble && (
        <span role="alert" className="max-w-56 text-xs text-error">
          {trouble}
        </span>
      )}
    </span>
  );
}

interface SettingsFilesProps extends BusToolProps {
  readonly device: Device;
  readonly values: ReadonlyMap<number, number> | null;
  readonly onSaid: (sentence: string, isBad?: boolean) => void;
  readonly onDone: () => void;
}

/** What a device is set to, to a file and back again; what is restored lets go of the torque where it must, once that was agreed to. */
function SettingsFiles({ bus, device, values, onSaid, onDone }: SettingsFilesProps) {
  const { layout, id } = device;
  const [wanted, setWanted] = useState<ReadonlyMap<number, number> | null>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    const read = readSettings(layout, await file.text());
    if (read.ok) setWanted(read.value);
    else onSaid(read.problem, true);
  };
  const differing = wanted
    ? settingsOf(layout).filter(({ address }) => wanted.has(address) && wanted.get(address) !== values?.get(address))
    : [];
  const restore = async () => {
    if (!wanted || !values) return;
    setWanted(null);
    const told = await runOnBus(bus.board.id, { kind: "restore", layoutId: layout.id, id, wanted, now: values });
    if (told.kind === "done") onSaid(told.outcome.sentence, !told.outcome.isDone);
    onDone();
  };
  return (
    <>
      <button
        type="button"
        className="btn btn-sm btn-outline"
        disabled={!values}
        onClick={() =>
          values &&
          saveFile(`${layout.name.toLowerCase()}-${id}.json`, writeSettings(layout, values), "application/json")
        }
      >
        Save settings
      </button>
      <label className="btn btn-sm btn-outline">
        Restore…
        <input
          type="file"
          accept=".json,application/json"
          className="sr-only"
          disabled={!values}
          onChange={(event) => {
            void take(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
      </label>
      {wanted && (
        <Sheet label="Restore settings" onClose={() => setWanted(null)}>
          <h2 className="heading text-lg">
            {differing.length === 0 ? "Nothing differs" : `${differing.length} settings differ`}
          </h2>
          <ul className="my-3 list-disc pl-5 text-sm">
            {differing.map((register) => (
              <li key={register.address}>
                {register.label}: {wordsOf(register, values?.get(register.address) ?? 0)} becomes{" "}
                {wordsOf(register, wanted.get(register.address) ?? 0)}
              </li>
            ))}
          </ul>
          {differing.some(({ needsTorqueOff }) => needsTorqueOff) && (
            <p className="mb-3 text-sm">Some of them need the torque off for a moment: hold what hangs on it.</p>
          )}
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={differing.length === 0}
            onClick={() => void restore()}
          >
            Write them
          </button>
        </Sheet>
      )}
    </>
  );
}
