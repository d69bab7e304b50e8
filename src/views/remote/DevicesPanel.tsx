import type { Device, Standing } from "@core/remote";
import { useProject } from "@stores/document";
import { changeDevice, letIn, newCode, remoteStore, throwOut } from "@stores/remote";
import { useEffect, useState } from "react";
import { useStore } from "zustand";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { NameField } from "../parts/NameField";
import { Lately } from "./LogPanel";
import { SquareCode } from "./SquareCode";

/** Who is let in, by which way, and what each device may do. */
export function DevicesPanel() {
  const standing = useStore(remoteStore, (view) => view.standing);
  if (!standing) return <p className="caption">Waiting for the server of this bench…</p>;
  return (
    <div className="grid h-full min-h-0 grid-cols-[21rem_minmax(0,1fr)] gap-4">
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto shows-more pr-1">
        <DoorSheet standing={standing} />
        <CodeSheet standing={standing} />
      </div>
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto shows-more pr-1">
        <DeviceList standing={standing} />
        <Lately />
      </div>
    </div>
  );
}

function DoorSheet({ standing }: { readonly standing: Standing }) {
  const { isOpen, isTls, trouble, addresses } = standing;
  const [wantsTls, setWantsTls] = useState(isTls);
  return (
    <section className="sheet space-y-2" aria-labelledby="door-heading">
      <h2 id="door-heading" className="heading">
        The door
      </h2>
      <p className="text-sm">
        {isOpen
          ? "Whoever is in this network finds the door. Inside come only devices that you let in with a code."
          : "Only this computer finds the door. To use a phone, open it to your own network."}
      </p>
      {!isOpen && (
        <label className="flex items-start gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm mt-0.5"
            checked={wantsTls}
            onChange={(event) => setWantsTls(event.target.checked)}
          />
          <span>
            Encrypted (TLS). The phone asks once whether it trusts this bench, unless your own certificate is named at
            the start.
          </span>
        </label>
      )}
      <button
        type="button"
        className={`btn btn-sm w-full ${isOpen ? "btn-error" : "btn-primary"}`}
        onClick={() => letIn(!isOpen, wantsTls)}
      >
        {isOpen ? "Let nobody in any more" : "Let others in"}
      </button>
      {trouble && (
        <p role="alert" className="text-sm text-error">
          {trouble}
        </p>
      )}
      <ul className="space-y-0.5">
        {addresses.map((address) => (
          <li key={address} className="number text-sm break-all select-all" data-address>
            {address}
          </li>
        ))}
      </ul>
    </section>
  );
}

function CodeSheet({ standing: { code, addresses } }: { readonly standing: Standing }) {
  const leftS = useSecondsLeft(code);
  const [address = ""] = addresses;
  return (
    <section className="sheet space-y-2" aria-labelledby="code-heading">
      <h2 id="code-heading" className="heading">
        A code for one device
      </h2>
      {code && leftS > 0 ? (
        <>
          <div className="flex items-center gap-3">
            <SquareCode text={`${address}#${code.digits}`} className="size-36 shrink-0" />
            <div>
              <p className="number text-3xl font-semibold tracking-[0.12em]" data-code>
                {code.digits}
              </p>
              <p className="caption">good for {leftS} s, once</p>
            </div>
          </div>
          <p className="text-sm">Point a camera at the square, or open the address above and type the digits.</p>
        </>
      ) : (
        <p className="text-sm">
          Whoever brings a pad types six digits that only this screen shows. A code lets in one device, within three
          minutes.
        </p>
      )}
      <button type="button" className="btn btn-outline btn-sm w-full" onClick={newCode}>
        {code ? "Another code" : "Show a code"}
      </button>
    </section>
  );
}

/** How long a code is good for still, from when the server said so. */
function useSecondsLeft(code: Standing["code"]): number {
  const [passedMs, setPassedMs] = useState(0);
  useEffect(() => {
    setPassedMs(0);
    if (!code) return;
    const heardMs = performance.now();
    const timer = setInterval(() => setPassedMs(performance.now() - heardMs), 1000);
    return () => clearInterval(timer);
  }, [code]);
  return Math.max(0, Math.ceil(((code?.leftMs ?? 0) - passedMs) / 1000));
}

function DeviceList({ standing: { devices } }: { readonly standing: Standing }) {
  if (devices.length === 0)
    return (
      <div className="sheet grid grow place-content-center gap-2 text-center">
        <p>No device is let in.</p>
        <p className="caption max-w-96">
          A phone, a tablet or a second window of this computer becomes a pad: show a code, open the address there, type
          the code.
        </p>
      </div>
    );
  return (
    <ul className="space-y-2" aria-label="Devices">
      {devices.map((one) => (
        <DeviceCard key={one.device.id} one={one} />
      ))}
    </ul>
  );
}

type Known = Standing["devices"][number];

const anyPad = "";

function DeviceCard({ one: { device, isHere, address, agent } }: { readonly one: Known }) {
  const joints = useProject((project) => project.joints);
  const pads = useProject((project) => project.pads);
  const touches = useStore(remoteStore, (view) => view.touches);
  const lagMs = useStore(remoteStore, (view) => view.lags[device.id]);
  const controls = pads.flatMap((pad) => pad.controls);
  const touched = touches.filter(({ deviceId }) => deviceId === device.id);
  const { rights } = device;
  const change = (changed: Partial<Device>) => changeDevice({ ...device, ...changed });
  const isLimited = rights.jointIds !== null;
  return (
    <li className="sheet space-y-2 py-2.5" data-device={device.name}>
      <div className="flex items-center gap-2">
        <svg viewBox="0 0 12 12" className="size-3 shrink-0" aria-hidden="true">
          <circle cx={6} cy={6} r={4} className={isHere ? "fill-success" : "fill-none stroke-base-content/60"} />
        </svg>
        <NameField
          label={`Name of ${device.name}`}
          value={device.name}
          onCommit={(name) => name.trim() && change({ name: name.trim() })}
          className="grow font-semibold"
        />
        <span className="caption">
          {isHere ? "here" : "away"} · {address}
          {agent && ` · ${agent}`}
        </span>
        {lagMs !== undefined && lagMs > 0 && (
          <span className="number text-sm" title="from the thumb to the pulse, the middle of the last ones">
            {formatNumber(lagMs, 0)} ms
          </span>
        )}
        <button type="button" className="btn btn-outline btn-error btn-xs" onClick={() => throwOut(device.id)}>
          throw out
        </button>
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <ChoiceField
          label="May"
          value={rights.isLookOnly ? "look" : isLimited ? "some" : "all"}
          choices={[
            ["all", "move everything"],
            ["some", "move some joints"],
            ["look", "look only"],
          ]}
          onChoose={(may) =>
            change({
              rights: {
                ...rights,
                isLookOnly: may === "look",
                jointIds: may === "some" ? (rights.jointIds ?? joints.map(({ id }) => id)) : null,
              },
            })
          }
          className="w-44"
        />
        <ChoiceField
          label="Sees"
          value={rights.padId ?? anyPad}
          choices={[[anyPad, "every pad"], ...pads.map(({ id, label }) => [id, label] as const)]}
          onChoose={(id) => change({ rights: { ...rights, padId: id === anyPad ? null : id } })}
          className="w-44"
        />
        <p className="pb-1.5 text-sm">
          {touched.length === 0
            ? ""
            : `Thumb on ${touched.map(({ controlId }) => controlWords(controls, controlId)).join(", ")}`}
        </p>
      </div>
      {isLimited && !rights.isLookOnly && (
        <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
          <legend className="sr-only">Joints that {device.name} may move</legend>
          {joints.map(({ id, label }) => (
            <label key={id} className="flex items-center gap-1.5 text-sm">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={rights.jointIds?.includes(id) ?? false}
                onChange={(event) => {
                  const others = (rights.jointIds ?? []).filter((one) => one !== id);
                  change({ rights: { ...rights, jointIds: event.target.checked ? [...others, id] : others } });
                }}
              />
              {label}
            </label>
          ))}
        </fieldset>
      )}
    </li>
  );
}

const controlWords = (
  controls: readonly { readonly id: string; readonly label: string; readonly kind: string }[],
  id: string,
) => {
  const control = controls.find((one) => one.id === id);
  return control ? control.label || `a ${control.kind}` : "what is gone";
};
