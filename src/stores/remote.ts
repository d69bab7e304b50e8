import type { Device, LogEntry, Standing } from "@core/remote";
import type { RemoteAsk, Touch } from "@worker/remote/remoteMessages";
import { useEffect } from "react";
import { createStore } from "zustand/vanilla";
import { hear, tell } from "./bridge";

/** What is known here of what comes from afar: the doors, who is let in, what happened there. */
interface RemoteView {
  /** Whether the server is there, and why not; null while nobody has asked. */
  readonly line: { readonly isThere: boolean; readonly sentence: string } | null;
  readonly standing: Standing | null;
  readonly log: readonly LogEntry[];
  readonly touches: readonly Touch[];
  readonly lags: Readonly<Record<string, number>>;
}

export const remoteStore = createStore<RemoteView>()(() => ({
  line: null,
  standing: null,
  log: [],
  touches: [],
  lags: {},
}));

/** Which pad, and which of its controls, is being laid out; none of it belongs to the project. */
export const padView = createStore<{ readonly padId: string | null; readonly controlId: string | null }>()(() => ({
  padId: null,
  controlId: null,
}));

hear("remote", ({ told }) => {
  switch (told.kind) {
    case "line":
      remoteStore.setState(told.isThere ? { line: told } : { line: told, standing: null, touches: [], lags: {} });
      return;
    case "standing":
      remoteStore.setState({ standing: told.standing });
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

export const letIn = (isOpen: boolean, isTls: boolean): void => askRemote({ kind: "letIn", isOpen, isTls });
export const newCode = (): void => askRemote({ kind: "code" });
export const changeDevice = (device: Device): void => askRemote({ kind: "device", device });
export const throwOut = (deviceId: string): void => askRemote({ kind: "throwOut", deviceId });
