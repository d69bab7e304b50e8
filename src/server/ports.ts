import { connect } from "node:net";
import type { Duplex } from "node:stream";
import { type Direction, linesOf, type ServerAsk } from "@core/wire";
import { SerialPort } from "serialport";
import { Outbox, type Write } from "./outbox";

type ServerWire = Extract<ServerAsk, { kind: "open" }>["wire"];

/** A wire that is open on this computer. */
export interface OpenWire {
  readonly stream: Duplex;
  /** All that is said on it goes this way. */
  readonly outbox: Outbox;
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
  wire.kind === "tcp" ? openTcp(wire.host, wire.port) : openPort(wire.path, wire.bitsPerS, wire.direction);

/** What is used of a port to send through an adapter that must be told. */
export interface DirectedPort {
  write(bytes: Buffer): unknown;
  drain(done: (error?: Error | null) => void): void;
  set(lines: { rts?: boolean; dtr?: boolean }, done: (error: Error | null) => void): void;
}

/** Sends packet by packet: the adapter is turned to sending, and back once the last bit is out. */
export function writeDirected(port: DirectedPort, direction: Direction): Write {
  const setLines = (isSending: boolean) =>
    new Promise<void>((done) => port.set(linesOf(direction, isSending), () => done()));
  const listens = setLines(false);
  return async (bytes, done) => {
    await listens;
    await setLines(true);
    port.write(bytes);
    await new Promise<void>((drained) => port.drain(() => drained()));
    await setLines(false);
    done();
  };
}

function openPort(path: string, bitsPerS: number, direction: Direction | undefined): Promise<OpenWire> {
  return new Promise((resolve, reject) => {
    const port = new SerialPort({ path, baudRate: bitsPerS, autoOpen: false, lock: true });
    port.open((error) => {
      if (error) {
        reject(new Error(portSentence(path, error)));
        return;
      }
      const outbox = new Outbox(
        direction ? writeDirected(port, direction) : (bytes, done) => port.write(bytes, undefined, () => done()),
      );
      resolve({
        stream: port,
        outbox,
        setSpeed: async (baudRate) => {
          await outbox.emptied();
          await new Promise<void>((done) => port.drain(() => port.update({ baudRate }, () => done())));
        },
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
      resolve({
        stream: socket,
        outbox: new Outbox((bytes, done) => socket.write(bytes, () => done())),
        setSpeed: async () => {},
        close: () => socket.destroy(),
      });
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
