import { createServer as createPlain, type RequestListener, type Server } from "node:http";
import { createServer as createSecure } from "node:https";
import { networkInterfaces } from "node:os";
import type { Certificate } from "./certificate";

/**
 * The addresses of this computer on its networks, the likeliest first. LET_IN names others, separated by commas. Only those that phones reach as they
 * are: no loopback, and none that needs a zone.
 */
export function lanAddresses(): readonly string[] {
  const { LET_IN } = process.env;
  if (LET_IN) return LET_IN.split(",").map((one) => one.trim());
  return Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .filter(({ internal, family, address }) => !internal && family === "IPv4" && !address.startsWith("169.254."))
    .map(({ address }) => address);
}

/** Listens at an address; fails with the system's own error. */
export function listenAt(
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
