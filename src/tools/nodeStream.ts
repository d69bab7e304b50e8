import type { RealWire } from "@core/wire";
import { type OpenWire, openWire } from "../server/ports";
import { type ByteStream, LastingStream } from "../worker/wires/byteStream";

/** A wire that was written as a person writes it: `tcp:host:port`, or the path of a serial port, with `@speed` behind it where it is not 115200. */
export function wireIn(text: string): RealWire | null {
  const tcp = /^tcp:([A-Za-z0-9_.-]+|\[[0-9a-f:]+\]):(\d{1,5})$/i.exec(text);
  if (tcp) return { kind: "tcp", host: (tcp[1] as string).replace(/[[\]]/g, ""), port: Number(tcp[2]) };
  const port = /^([\w./:\\-]+?)(?:@(\d{3,8}))?$/.exec(text);
  return port && !text.startsWith("tcp:")
    ? { kind: "serverPort", path: port[1] as string, bitsPerS: Number(port[2] ?? 115_200) }
    : null;
}

/** Opens a wire of this computer without a page and without a server. */
export const openNodeStream = (wire: RealWire): ByteStream =>
  new LastingStream(({ onOpen, onBytes, onLost }, bitsPerS) => {
    let open: OpenWire | null = null;
    let isClosed = false;
    if (wire.kind === "browserPort")
      setTimeout(() => onLost("It is a port of a browser, which only a page can open. Say --wire."));
    else
      openWire(bitsPerS !== null && wire.kind === "serverPort" ? { ...wire, bitsPerS } : { ...wire }).then(
        (opened) => {
          if (isClosed) return opened.close();
          open = opened;
          const gone = () => onLost("The wire is gone: its cable was pulled, or its board was switched off.");
          opened.stream.on("data", (data: Buffer) => onBytes(data));
          for (const end of ["error", "close", "end"]) opened.stream.on(end, gone);
          onOpen();
        },
        (error) => onLost(error instanceof Error ? error.message : String(error)),
      );
    return {
      write: (bytes) => open?.outbox.send(Buffer.from(bytes)),
      // There is nobody who outlives this program; the board lets go by itself when it hears nothing.
      setLastWords: () => {},
      setSpeed: (speed) => void open?.setSpeed(speed),
      close: () => {
        isClosed = true;
        // What is on its way still leaves.
        const ending = open;
        void ending?.outbox.emptied().then(() => {
          ending.stream.once("finish", () => ending.close());
          ending.stream.end();
        });
        setTimeout(() => ending?.close(), 200).unref();
      },
    };
  });
