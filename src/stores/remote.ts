import {
  type Device,
  type DoorSettings,
  type DoorsStanding,
  doorSettingsSchema,
  type Handset,
  type LogEntry,
  type Standing,
  shutDoors,
} from "@core/remote";
import type { RemoteAsk, Touch } from "@worker/remote/remoteMessages";
import { useEffect } from "react";
import { createStore } from "zustand/vanilla";
import { hear, tell } from "./bridge";

/** What is known here of what comes from afar: the doors, who is let in, what happened there. */
interface RemoteView {
  /** Whether the server is there, and why not; null while nobody has asked. */
  readonly line: { readonly isThere: boolean; readonly sentence: string } | null;
  readonly standing: Standing | null;
  readonly doors: DoorsStanding | null;
  readonly log: readonly LogEntry[];
  readonly touches: readonly Touch[];
  readonly lags: Readonly<Record<string, number>>;
}

export const remoteStore = createStore<RemoteView>()(() => ({
  line: null,
  standing: null,
  doors: null,
  log: [],
  touches: [],
  lags: {},
}));

/** Which pad and which of its controls is being laid out; none of it belongs to the project. */
interface RemotePlace {
  readonly padId: string | null;
  readonly controlId: string | null;
}

export const remotePlace = createStore<RemotePlace>()(() => ({
  padId: null,
  controlId: null,
}));

hear("remote", ({ told }) => {
  switch (told.kind) {
    case "line":
      remoteStore.setState(
        told.isThere ? { line: told } : { line: told, standing: null, doors: null, touches: [], lags: {} },
      );
      return;
    case "standing":
      remoteStore.setState({ standing: told.standing });
      return;
    case "doors":
      remoteStore.setState({ doors: told.doors });
      return;
    case "log":
      remoteStore.setState({ log: told.entries });
      return;
    case "touches":
      remoteStore.setState({ touches: told.touches });
      return;
    case "lags":
      remoteStore.setState({ lags: told.lags });
      return;
    default:
      told satisfies never;
  }
});

export const askRemote = (ask: RemoteAsk): void => tell({ kind: "remote", ask });

/** While this is shown, the server is talked to, whether the bench needs it or not. */
export function useRemoteLook(): void {
  useEffect(() => {
    askRemote({ kind: "look", isLooking: true });
    return () => askRemote({ kind: "look", isLooking: false });
  }, []);
}

/** Where this computer keeps by which doors messages come in: it is no part of a project, and its words leave in no file. */
const place = "vantel.doors";

function keptDoors(): DoorSettings {
  try {
    const read = doorSettingsSchema.safeParse(JSON.parse(localStorage.getItem(place) ?? "null"));
    return read.success ? read.data : shutDoors;
  } catch {
    return shutDoors;
  }
}

export const doorStore = createStore<DoorSettings>()(() =>
  typeof localStorage === "undefined" ? shutDoors : keptDoors(),
);

/** Sets the doors of this computer. Gives a sentence where they cannot be so. */
export function setDoors(settings: DoorSettings): string | null {
  const read = doorSettingsSchema.safeParse(settings);
  if (!read.success) return doorTrouble[String(read.error.issues[0]?.path.at(-1))] ?? "That cannot be.";
  doorStore.setState(read.data, true);
  localStorage.setItem(place, JSON.stringify(read.data));
  askRemote({ kind: "doors", settings: read.data });
  return null;
}

const doorTrouble: Readonly<Record<string, string>> = {
  address: "An address begins with mqtt://, mqtts://, ws:// or wss://, as mqtt://192.168.1.20:1883.",
  port: "A port is a whole number from 1 to 65535.",
  to: "That is an address and a port, as 192.168.1.30:9001; or nothing.",
  universe: "A universe is a whole number from 1 to 63999.",
};

/** Tells the worker what this computer has open, once it is there; where everything is shut it need not know. */
export function openDoors(): void {
  const settings = doorStore.getState();
  if (settings !== shutDoors) askRemote({ kind: "doors", settings });
}

/** How the simulated handset is held; it is off when the bench is opened. */
export const handsetStore = createStore<Handset>()(() => ({
  isOn: false,
  across: 0.5,
  up: 0.5,
  first: false,
  second: false,
  distanceM: 2,
}));

export function holdHandset(change: Partial<Handset>): void {
  handsetStore.setState(change);
  askRemote({ kind: "handset", handset: handsetStore.getState() });
}

export const letIn = (isOpen: boolean, isTls: boolean): void => askRemote({ kind: "letIn", isOpen, isTls });
export const newCode = (): void => askRemote({ kind: "code" });
export const changeDevice = (device: Device): void => askRemote({ kind: "device", device });
export const throwOut = (deviceId: string): void => askRemote({ kind: "throwOut", deviceId });
