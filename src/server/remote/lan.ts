import { createServer as createPlain, type IncomingMessage, type RequestListener, type Server } from "node:http";
import { createServer as createSecure } from "node:https";
import { networkInterfaces } from "node:os";
import type { Duplex } from "node:stream";
import type { Door } from "../doorman";
import { type Certificate, certificateFor } from "./certificate";

/**
 * The addresses of this computer on its networks, the likeliest first. LET_IN names others, separated by commas. Only those that phones reach as they
 * are: no loopback, and none that needs a zone.
 */
function lanAddresses(): readonly string[] {
  const { LET_IN } = process.env;
  if (LET_IN) return LET_IN.split(",").map((one) => one.trim());
  return Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter(({ internal, family, address }) => !internal && family === "IPv4" && !address.startsWith("169.254."))
    .map(({ address }) => address);
}

/** Listens at an address; fails with the system's own error. */
function listenAt(
  address: string,
  port: number,
  certificate: Certificate | null,
  onRequest: RequestListener,
): Promise<Server> {
  const server = certificate ? createSecure({ ...certificate }, onRequest) : createPlain(onRequest);
  // Who opens connections and says nothing is not waited for.
  server.headersTimeout = 5000;
  server.requestTimeout = 10_000;
  server.maxConnections = connectionsAtMost;
  return new Promise((resolve, reject) => {
    server.once("error", reject);
    server.listen(port, address, () => {
      server.off("error", reject);
      server.on("error", () => {});
      resolve(server as Server);
    });
  });
}

const connectionsAtMost = 400;

/** The doors to the local network. What is asked of them is done one after the other, so that the last word holds, however long a certificate takes. */
export class LanDoors {
  readonly #port: number;
  readonly #serve: (door: Door) => RequestListener;
  #open: { readonly door: Door; readonly server: Server }[] = [];
  #turn: Promise<void> = Promise.resolve();
  /** Why they could not be opened; empty where all is well. */
  trouble = "";
  /** What is done with a socket that somebody opens at one of them. */
  onUpgrade: (request: IncomingMessage, socket: Duplex, head: Buffer, door: Door) => void = (_, socket) =>
    socket.destroy();

  /** @param serve what answers at a door */
  constructor(port: number, serve: (door: Door) => RequestListener) {
    this.#port = port;
    this.#serve = serve;
  }

  get isOpen(): boolean {
    return this.#open.length > 0;
  }

  get isTls(): boolean {
    return this.#open[0]?.door.scheme === "https";
  }

  /** This computer's addresses at which they are open. */
  get names(): readonly string[] {
    return this.#open.map(({ door }) => door.names[0] ?? "");
  }

  /** Where a phone finds the pads; on this computer alone while they are shut. */
  get addresses(): string[] {
    return this.isOpen
      ? this.#open.map(({ door }) => `${door.scheme}://${door.names[0]}:${door.port}/pad`)
      : [`http://127.0.0.1:${this.#port}/pad`];
  }

  set(isOpen: boolean, isTls = false): Promise<void> {
    this.#turn = this.#turn.then(async () => {
      await this.#shut();
      if (isOpen) await this.#openAll(isTls);
    });
    return this.#turn;
  }

  async #openAll(isTls: boolean): Promise<void> {
    const names = lanAddresses();
    this.trouble = names.length > 0 ? "" : "This computer is on no network: there is nobody to let in.";
    let certificate: Certificate | null = null;
    try {
      certificate = isTls ? await certificateFor(names) : null;
    } catch (error) {
      this.trouble = `The certificate could not be read or made: ${error instanceof Error ? error.message : error}.`;
      return;
    }
    for (const name of names) {
      const door: Door = { scheme: isTls ? "https" : "http", names: [name], port: this.#port };
      try {
        const server = await listenAt(name, this.#port, certificate, this.#serve(door));
        server.on("upgrade", (request, socket, head) => this.onUpgrade(request, socket, head, door));
        this.#open.push({ door, server });
      } catch (error) {
        this.trouble = `${name}:${this.#port} could not be opened: ${(error as NodeJS.ErrnoException).code ?? error}.`;
      }
    }
    if (this.isOpen) this.trouble = "";
  }

  async #shut(): Promise<void> {
    const doors = this.#open;
    this.#open = [];
    this.trouble = "";
    await Promise.all(
      doors.map(
        ({ server }) =>
          new Promise<void>((done) => {
            server.close(() => done());
            server.closeAllConnections();
          }),
      ),
    );
  }
}
