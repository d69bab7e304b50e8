import { type Direction, linesOf, type WireOf } from "@core/wire";
import type { Attempt, AttemptEars } from "./byteStream";

/** What is used of Web Serial. */
interface BrowserPort {
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
  open(options: { baudRate: number; bufferSize?: number }): Promise<void>;
  close(): Promise<void>;
  setSignals(signals: { requestToSend?: boolean; dataTerminalReady?: boolean }): Promise<void>;
  getInfo(): { usbVendorId?: number; usbProductId?: number };
}
interface BrowserSerial {
  getPorts(): Promise<readonly BrowserPort[]>;
}

const notThere = "The port is not plugged in, or this browser may not use it any more. Choose it again.";
const bufferSize = 16_384;

/** The port of this description among those that the browser lets this page use; undefined where there is none. */
async function findPort({ vendorId, productId, place }: WireOf<"browserPort">): Promise<BrowserPort | undefined> {
  const serial = (navigator as Navigator & { serial?: BrowserSerial }).serial;
  const ports = (await serial?.getPorts()) ?? [];
  return ports.filter((port) => {
    const info = port.getInfo();
    return (info.usbVendorId ?? null) === vendorId && (info.usbProductId ?? null) === productId;
  })[place];
}

const sentenceOf = (error: unknown): string => {
  const { name = "", message = String(error) } = error instanceof Error ? error : {};
  if (name === "InvalidStateError" || /already open/i.test(message))
    return "The port is open already, in this window or another.";
  if (name === "NetworkError" || /failed to open/i.test(message))
    return "Another program has the port, or its cable was pulled.";
  return `The port could not be used: ${message}`;
};

/** Opens a serial port of this browser. */
export function openBrowserPort(
  wire: WireOf<"browserPort">,
  { onOpen, onBytes, onLost }: AttemptEars,
  bitsPerS: number | null,
): Attempt {
  let isOver = false;
  let port: BrowserPort | undefined;
  let writer: WritableStreamDefaultWriter<Uint8Array> | undefined;
  let reader: ReadableStreamDefaultReader<Uint8Array> | undefined;
  /** A port is reopened one step at a time: an end that comes in the middle waits for its turn. */
  let turn: Promise<void> = Promise.resolve();
  const inTurn = (step: () => Promise<void>) => {
    turn = turn.then(step).catch((error) => lose(sentenceOf(error)));
  };
  const lose = (sentence: string) => {
    if (isOver) return;
    isOver = true;
    inTurn(shut);
    onLost(sentence);
  };

  const shut = async () => {
    await reader?.cancel().catch(() => {});
    reader?.releaseLock();
    writer?.releaseLock();
    reader = writer = undefined;
    await port?.close().catch(() => {});
  };
  const openAt = async (baudRate: number) => {
    port ??= await findPort(wire);
    if (!port) throw Object.assign(new Error(notThere), { name: "NotFoundError" });
    await port.open({ baudRate, bufferSize });
    reader = port.readable?.getReader();
    writer = port.writable?.getWriter();
    if (reader) void listen(reader);
  };
  /** Reads until somebody cancels it, or the port is gone. */
  const listen = async (from: ReadableStreamDefaultReader<Uint8Array>) => {
    try {
      for (;;) {
        const { value, done } = await from.read();
        if (from !== reader) return;
        if (done) break;
        onBytes(value);
      }
      lose("The port is gone: its cable was pulled, or its board was switched off.");
    } catch (error) {
      if (from === reader) lose(sentenceOf(error));
    }
  };
  inTurn(async () => {
    await openAt(bitsPerS ?? wire.bitsPerS);
    if (!isOver) onOpen();
  });
  const setLines = async (direction: Direction, isSending: boolean) => {
    const lines = linesOf(direction, isSending);
    await port?.setSignals("rts" in lines ? { requestToSend: lines.rts } : { dataTerminalReady: lines.dtr });
  };
  /** An adapter that must be told is turned to sending for each packet, and back once it is out. */
  const send = async (bytes: Uint8Array) => {
    if (wire.direction) await setLines(wire.direction, true);
    await writer?.write(bytes);
    if (wire.direction) await setLines(wire.direction, false);
  };
  let sending: Promise<void> = Promise.resolve();
  return {
    write: (bytes) => {
      sending = sending.then(() => send(bytes)).catch((error) => lose(sentenceOf(error)));
    },
    // Nobody outlives this page that could say them: the board lets go by itself when it hears nothing.
    setLastWords: () => {},
    setSpeed: (speed) =>
      inTurn(async () => {
        await shut();
        if (!isOver) await openAt(speed);
      }),
    close: () => {
      isOver = true;
      inTurn(shut);
    },
  };
}
