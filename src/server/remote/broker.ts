import { createHash, timingSafeEqual } from "node:crypto";
import { createServer, type Server } from "node:net";
import type { DoorSettings, DoorState } from "@core/remote";
import { Bucket, payloadBytesAtMost, topicsOf } from "@core/remote";
import { Aedes } from "aedes";

const clientsAtMost = 100;
/** A client that says more than that is shown the door: it would take the time of all others. */
const messagesPerS = 500;
/** At each address where the broker listens. */
const knocksPerS = 4;
const knocksAtOnce = 40;
const hashOf = (text: string) => createHash("sha256").update(text).digest();
const isFromHere = (address: string | undefined) => address !== undefined && /^(::ffff:)?127\.|^::1$/.test(address);

/**
 * A broker for those who have none. It listens on this computer alone; to the local network only while others are let in and it was said so, and then
 * only to who knows its word. Nobody but the bench says how the bench stands.
 */
export class Broker {
  #aedes: Aedes | null = null;
  #servers: Server[] = [];
  readonly #onFlood: () => void;
  state: DoorState = { state: "off", sentence: "" };

  /** @param onFlood a client was shown the door */
  constructor(onFlood: () => void) {
    this.#onFlood = onFlood;
  }

  async open(
    { port, insideWord }: DoorSettings["mqtt"],
    addresses: readonly string[],
    root: () => string,
  ): Promise<void> {
    await this.close();
    const aedes = await Aedes.createBroker({
      concurrency: clientsAtMost,
      maxClientsIdLength: 64,
      connectTimeout: 5000,
    });
    this.#aedes = aedes;
    const word = hashOf(insideWord);
    aedes.authenticate = (client, _, password, done) => {
      const { remoteAddress } = client.conn as { remoteAddress?: string };
      const mayIn =
        isFromHere(remoteAddress) || (insideWord !== "" && timingSafeEqual(hashOf(password?.toString() ?? ""), word));
      done(null, mayIn && aedes.connectedClients <= clientsAtMost);
    };
    const rates = new WeakMap<object, Bucket>();
    aedes.authorizePublish = (client, packet, done) => {
      if (client && !roomOf(rates, client).take(performance.now())) {
        done(new Error("too much"));
        client.close();
        this.#onFlood();
        return;
      }
      const { remoteAddress } = (client?.conn ?? {}) as { remoteAddress?: string };
      const isOurs = packet.topic.startsWith(`${topicsOf(root()).out}/`);
      if (packet.payload.length > payloadBytesAtMost) done(new Error("too long"));
      // What nobody but the bench says: from this computer it may be another bench.
      else if (packet.topic.startsWith("$") || (isOurs && client !== null && !isFromHere(remoteAddress)))
        done(new Error("not allowed"));
      else done(null);
    };
    this.state = { state: "opening", sentence: "" };
    try {
      for (const address of ["127.0.0.1", ...addresses]) {
        // Who was shown the door comes again at once: nobody is let in more often than people plug things in.
        const knocks = new Bucket(knocksPerS, knocksAtOnce);
        const server = createServer((socket) => {
          socket.on("error", () => {});
          if (!knocks.take(performance.now())) {
            socket.destroy();
            return;
          }
          aedes.handle(socket);
        });
        server.maxConnections = clientsAtMost;
        await new Promise<void>((resolve, reject) => {
          server.once("error", reject);
          server.listen(port, address, resolve);
        });
        server.on("error", () => {});
        this.#servers.push(server);
      }
      const where = ["127.0.0.1", ...addresses].map((one) => `${one}:${port}`).join(" and ");
      this.state = { state: "open", sentence: `At ${where}` };
    } catch (error) {
      await this.close();
      this.state = {
        state: "lost",
        sentence: `Port ${port} could not be opened (${(error as NodeJS.ErrnoException).code}). Another program may have it.`,
      };
    }
  }

  async close(): Promise<void> {
    const [aedes, servers] = [this.#aedes, this.#servers];
    this.#aedes = null;
    this.#servers = [];
    this.state = { state: "off", sentence: "" };
    for (const server of servers) server.close();
    if (aedes) await new Promise<void>((done) => aedes.close(() => done()));
  }
}

function roomOf(rates: WeakMap<object, Bucket>, client: object): Bucket {
  const known = rates.get(client);
  if (known) return known;
  const fresh = new Bucket(messagesPerS, messagesPerS);
  rates.set(client, fresh);
  return fresh;
}
