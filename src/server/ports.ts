import { connect } from "node:net";
import type { Duplex } from "node:stream";
import type { ServerAsk } from "@core/wire";
import { SerialPort } from "serialport";

type ServerWire = Extract<ServerAsk, { kind: "open" }>["wire"];

/** A wire that is open on this computer. */
export interface OpenWire {
  readonly stream: Duplex;
  /** Runs it at another speed; a TCP address has none. */
  setSpeed(bitsPerS: number): Promise<void>;
  close(): void;
}

/** What the system tells of a serial port. */
export interface PortListed {
  readonly path: string;
  readonly maker: string | null;
  readonly serialNumber: string | null;
  readonly vendorId: string | null;
  readonly productId: string | null;
}

export async function listPorts(): Promise<readonly PortListed[]> {
  const ports = await SerialPort.list();
  return ports
    .filter(({ path, vendorId }) => vendorId !== undefined || !/ttyS\d+$/.test(path))
    .map(({ path, manufacturer, serialNumber, vendorId, productId }) => ({
      path,
      maker: manufacturer ?? null,
      serialNumber: serialNumber ?? null,
      vendorId: vendorId ?? null,
      productId: productId ?? null,
    }));
}

/** So long a TCP address has to answer. */
const connectWithinMs = 4000;

/** Opens a wire; fails with a sentence. */
export const openWire = (wire: ServerWire): Promise<OpenWire> =>
  wire.kind === "tcp" ? openTcp(wire.host, wire.port) : openPort(wire.path, wire.bitsPerS);

function openPort(path: string, bitsPerS: number): Promise<OpenWire> {
  return new Promise((resolve, reject) => {
    const port = new SerialPort({ path, baudRate: bitsPerS, autoOpen: false, lock: true });
    port.open((error) => {
      if (error) reject(new Error(portSentence(path, error)));
      else
        resolve({
          stream: port,
          setSpeed: (baudRate) =>
            new Promise((done) => {
              port.drain(() => port.update({ baudRate }, () => done()));
            }),
          close: () => {
            if (port.isOpen) port.close(() => {});
          },
        });
    });
  });
}

function openTcp(host: string, port: number): Promise<OpenWire> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host, port, noDelay: true });
    const refuse = (sentence: string) => {
      socket.destroy();
      reject(new Error(sentence));
    };
    socket.setTimeout(connectWithinMs, () =>
      refuse(`${host}:${port} does not answer. Is its power on, and the address right?`),
    );
    socket.once("error", (error) => refuse(tcpSentence(`${host}:${port}`, error)));
    socket.once("connect", () => {
      socket.setTimeout(0);
      socket.removeAllListeners("error");
      socket.removeAllListeners("timeout");
      resolve({ stream: socket, setSpeed: async () => {}, close: () => socket.destroy() });
    });
  });
}

function portSentence(path: string, { message }: Error): string {
  if (/no such file|ENOENT|not found/i.test(message)) return `There is no port ${path}. Is its cable plugged in?`;
  if (/permission|EACCES|access denied/i.test(message))
    return `${path} may not be opened by this user. On many systems the group “dialout” may.`;
  if (/lock|busy|EBUSY/i.test(message)) return `Another program has ${path}. Close it there.`;
  return `${path} could not be opened: ${message.replace(/^Error:? ?/, "")}.`;
}

function tcpSentence(address: string, error: NodeJS.ErrnoException): string {
  if (error.code === "ECONNREFUSED") return `Nobody listens at ${address}. Is the board's program running?`;
  if (error.code === "ENOTFOUND") return `No computer is called so: ${address}.`;
  return `${address} cannot be reached: ${error.code ?? error.message}.`;
}
