import type { Origin } from "@core/origins";
import { documentStore } from "./document";
import { command } from "./live";
import { notify } from "./notices";

/** What a controller says: which origin, how far from 0 to 1, and on which of its ports. */
export type MidiEar = (origin: Origin, share: number, portId: string) => void;

const noteOff = 0x80;
const noteOn = 0x90;
const controller = 0xb0;

/** Controllers that speak MIDI. They are asked for once a source wants one, or somebody teaches one; sources do not name the controller, so the one that moved them last counts. */
export class MidiInputs {
  readonly #ear: MidiEar;
  #access: MIDIAccess | null = null;
  #opening: Promise<void> | null = null;
  #isClosed = false;
  /** The port that moved each source last. */
  readonly #portOf = new Map<string, string>();

  constructor(ear: MidiEar) {
    this.#ear = ear;
  }

  /** Asks the browser, once; again only when a person asks for it. A browser without MIDI says nothing here. */
  open(isAsked = false): Promise<void> {
    const isWanted = isAsked || midiSources().length > 0;
    if (this.#access || !isWanted || !navigator.requestMIDIAccess) return Promise.resolve();
    if (this.#opening && !isAsked) return this.#opening;
    this.#opening = this.#ask(isAsked);
    return this.#opening;
  }

  close(): void {
    this.#isClosed = true;
    if (!this.#access) return;
    this.#access.onstatechange = null;
    for (const input of this.#access.inputs.values()) input.onmidimessage = null;
  }

  /** A source was moved by what came on a port. */
  moved(sourceId: string, portId: string): void {
    this.#portOf.set(sourceId, portId);
  }

  async #ask(isAsked: boolean): Promise<void> {
    try {
      const access = await navigator.requestMIDIAccess();
      if (this.#isClosed || this.#access) return;
      this.#access = access;
      access.onstatechange = ({ port }) => this.#onPort(port);
      this.#listen();
    } catch {
      if (isAsked) notify("This browser gives no access to MIDI controllers.", "warning");
    }
  }

  #listen(): void {
    for (const input of this.#access?.inputs.values() ?? [])
      input.onmidimessage = ({ data }) => this.#onMessage(data, input.id);
  }

  /** A controller came or went. One that only listens is no matter of the sources. */
  #onPort(port: MIDIPort | null): void {
    this.#listen();
    if (port?.type !== "input") return;
    const isLost = port.state === "disconnected";
    const isAnyLeft = [...(this.#access?.inputs.values() ?? [])].some(({ state }) => state === "connected");
    // One that nothing has moved yet waits for any controller.
    const touched = midiSources().filter(({ id }) => {
      const portId = this.#portOf.get(id);
      return portId === undefined ? !(isLost && isAnyLeft) : portId === port.id;
    });
    for (const { id } of touched) command({ kind: "lost", sourceId: id, isLost });
    if (isLost && touched.length > 0)
      notify(
        `A MIDI controller is gone: ${touched.map(({ label }) => label).join(", ")}. Their joints do as was set.`,
        "warning",
      );
  }

  #onMessage(data: Uint8Array | null, portId: string): void {
    const [status = 0, number = 0, value = 0] = data ?? [];
    const kind = status & 0xf0;
    const channel = (status & 0x0f) + 1;
    if (kind === controller) this.#ear({ kind: "midi", message: "controller", channel, number }, value / 127, portId);
    else if (kind === noteOn || kind === noteOff)
      this.#ear({ kind: "midi", message: "note", channel, number }, kind === noteOn && value > 0 ? 1 : 0, portId);
  }
}

const midiSources = () =>
  (documentStore.getState().project?.sources ?? []).filter(({ origin }) => origin.kind === "midi");
