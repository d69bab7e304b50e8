import { type ServerAsk, serverToldSchema, type WireOf } from "@core/wire";
import type { Attempt, AttemptEars } from "./byteStream";

/** The server closes the wire of a page that says nothing for 2 s. */
const hereEveryMs = 500;
const noServer = "The server of this bench does not answer. Is it running? It is started with bin/start.";

const hexOf = (bytes: Uint8Array) => Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");

/** Opens a wire of the computer that serves Vantel: its bytes go over a socket of its own. */
export function openSocket(
  wire: WireOf<"serverPort" | "tcp">,
  { onOpen, onBytes, onLost }: AttemptEars,
  bitsPerS: number | null,
): Attempt {
  const socket = new WebSocket(`${self.location.origin.replace(/^http/, "ws")}/api/wire`);
  socket.binaryType = "arraybuffer";
  const ask = (what: ServerAsk) => {
    if (socket.readyState === WebSocket.OPEN) socket.send(JSON.stringify(what));
  };
  const timer = setInterval(() => ask({ kind: "here" }), hereEveryMs);
  const lose = (sentence: string) => {
    clearInterval(timer);
    onLost(sentence);
  };
  const atSpeed = bitsPerS !== null && wire.kind === "serverPort" ? { ...wire, bitsPerS } : { ...wire };
  socket.onopen = () => ask({ kind: "open", wire: atSpeed, lastWords: "" });
  socket.onmessage = ({ data }: MessageEvent<ArrayBuffer | string>) => {
    if (typeof data !== "string") {
      onBytes(new Uint8Array(data));
      return;
    }
    const told = serverToldSchema.safeParse(JSON.parse(data));
    if (!told.success) return;
    if (told.data.kind === "open") onOpen();
    else lose(told.data.sentence);
  };
  socket.onclose = () => lose(noServer);
  return {
    write: (bytes) => socket.send(bytes as Uint8Array<ArrayBuffer>),
    setLastWords: (bytes) => ask({ kind: "lastWords", lastWords: hexOf(bytes) }),
    setSpeed: (speed) => ask({ kind: "speed", bitsPerS: speed }),
    close: () => {
      clearInterval(timer);
      socket.close();
    },
  };
}
