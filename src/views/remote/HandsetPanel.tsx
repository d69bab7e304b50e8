import { newSources } from "@core/inputs";
import { type HandsetPart, handsetParts } from "@core/origins";
import { addSources } from "@core/project";
import { Radio } from "@core/sim";
import { edit, newId, useProject } from "@stores/document";
import { liveSource } from "@stores/live";
import { handsetStore, holdHandset, remoteStore } from "@stores/remote";
import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { useStore } from "zustand";
import { formatNumber } from "../parts/format";
import { LiveText } from "../parts/LiveText";
import { useDrag } from "../parts/useDrag";
import { useHeldDown } from "../parts/useHeldDown";

/** A handset that is not there, on a radio that thins with distance: all of this can be tried alone. */
export function HandsetPanel() {
  const held = useStore(handsetStore);
  const refused = useStore(remoteStore, (view) => view.doors?.refused ?? 0);
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)_24rem] gap-4">
      <section className="sheet flex min-h-0 flex-col items-center gap-4" aria-labelledby="handset-heading">
        <div className="flex w-full items-center justify-between">
          <h2 id="handset-heading" className="heading">
            Simulated handset
          </h2>
          <label className="flex items-center gap-2 text-sm">
            {held.isOn ? "switched on" : "switched off"}
            <input
              type="checkbox"
              className="toggle toggle-primary"
              aria-label="Handset switched on"
              checked={held.isOn}
              onChange={(event) => holdHandset({ isOn: event.target.checked })}
            />
          </label>
        </div>
        <div
          className="flex w-72 flex-col items-center gap-5 rounded-[2.2rem_2.2rem_5rem_5rem] border-2 border-base-content bg-base-300 px-6 pt-6 pb-12"
          inert={!held.isOn}
        >
          <HandStick />
          <div className="flex w-full justify-between">
            <HandButton part="first" words="First" />
            <HandButton part="second" words="Second" />
          </div>
        </div>
        <label className="w-80 text-sm">
          <span className="flex justify-between">
            <span>Distance</span>
            <span className="number">
              {formatNumber(held.distanceM, 0)} m, {Math.round(Radio.lossAt(held.distanceM) * 100)} % lost
            </span>
          </span>
          <input
            type="range"
            className="range range-sm"
            aria-label="Distance of the handset"
            min={0}
            max={70}
            value={held.distanceM}
            onChange={(event) => holdHandset({ distanceM: Number(event.target.value) })}
          />
        </label>
        <p className="caption">
          {refused} messages of all doors were refused so far: late, doubled or overtaken ones are.
        </p>
      </section>
      <Parts />
    </div>
  );
}

/** The sources of the handset's parts: those that are there, with what they say, and those that may be made. */
function Parts() {
  const sources = useProject((project) => project.sources);
  const sourceOf = (part: HandsetPart) =>
    sources.find(({ origin }) => origin.kind === "handset" && origin.part === part);
  const missing = handsetParts.filter((part) => !sourceOf(part));
  const add = () => {
    const [model] = newSources("handset", "Handset", newId);
    if (!model) return;
    const made = missing.map((part) => ({
      ...model,
      id: newId(),
      label: `Handset, ${partWords[part]}`,
      range: part === "first" || part === "second" ? { low: 0, high: 1 } : model.range,
      origin: { kind: "handset", part } as const,
    }));
    edit(addSources(made));
  };
  return (
    <section className="sheet space-y-2" aria-labelledby="parts-heading">
      <h2 id="parts-heading" className="heading">
        Its sources
      </h2>
      {missing.length > 0 && (
        <button type="button" className="btn btn-primary btn-sm w-full" onClick={add}>
          {missing.length === handsetParts.length ? "Make sources of its parts" : "Make sources of the other parts"}
        </button>
      )}
      <ul>
        {handsetParts.map((part) => {
          const source = sourceOf(part);
          return (
            source && (
              <li key={part} className="flex justify-between border-b border-base-300 py-1 text-sm">
                {source.label}
                <LiveText read={() => formatNumber(liveSource(source.id), 0)} className="number" />
              </li>
            )
          );
        })}
      </ul>
      <p className="caption">
        It says how it stands twenty times a second. Lead its sources to joints at the station Inputs, carry it away,
        and see what its joints do.
      </p>
    </section>
  );
}

const partWords: Readonly<Record<HandsetPart, string>> = {
  across: "across",
  up: "up",
  first: "first button",
  second: "second button",
  battery: "battery",
};

function HandStick() {
  const { across, up } = useStore(handsetStore);
  const field = useRef<HTMLDivElement>(null);
  const follow = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = (at: number, from: number, size: number) => Math.min(Math.max((at - from) / size, 0), 1);
    holdHandset({
      across: share(event.clientX, box.left, box.width),
      up: 1 - share(event.clientY, box.top, box.height),
    });
  };
  const letGo = () => holdHandset({ across: 0.5, up: 0.5 });
  const drag = useDrag({
    begin(event) {
      follow(event);
      return true;
    },
    move: (_, event) => follow(event),
    end: letGo,
    cancel: letGo,
    gone: letGo,
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0], ArrowUp: [0, 0.05], ArrowDown: [0, -0.05] }[event.key];
    if (event.key === "Home") letGo();
    else if (by) {
      const within = (share: number) => Math.min(Math.max(share, 0), 1);
      holdHandset({ across: within(across + (by[0] as number)), up: within(up + (by[1] as number)) });
    } else return;
    event.preventDefault();
  };
  return (
    <div
      ref={field}
      role="slider"
      tabIndex={0}
      aria-label="Stick of the handset"
      aria-valuenow={Math.round(across * 100)}
      aria-valuetext={`${Math.round(across * 100)} % across, ${Math.round(up * 100)} % up`}
      className="relative size-40 touch-none rounded-full border-2 border-base-content bg-base-200"
      {...drag}
      onKeyDown={onKeyDown}
    >
      <span
        className="absolute size-14 -translate-x-1/2 translate-y-1/2 rounded-full border-2 border-base-content bg-primary"
        style={{ left: `${15 + across * 70}%`, bottom: `${15 + up * 70}%` }}
      />
    </div>
  );
}

function HandButton({ part, words }: { readonly part: "first" | "second"; readonly words: string }) {
  const isDown = useStore(handsetStore, (held) => held[part]);
  const held = useHeldDown((isOn) => holdHandset({ [part]: isOn }));
  return (
    <button
      type="button"
      aria-pressed={isDown}
      className={`btn btn-circle size-16 ${isDown ? "btn-primary" : ""}`}
      {...held}
    >
      {words}
    </button>
  );
}
