import { createServer, type IncomingMessage, type RequestListener, type ServerResponse } from "node:http";
import type { Duplex } from "node:stream";
import { fileURLToPath } from "node:url";
import { type Door, innerDoor, whyRefused } from "./doorman";
import { letGoAtTheEnd } from "./ending";
import { pagesOf, scriptHashesIn, securityHeaders } from "./pages";
import { listPorts } from "./ports";
import { Remote } from "./remote/remote";
import { Wires } from "./wires";

/**
 * The server: the built pages, what they ask of it, the wires that it opens for them, and the door for pads. On this machine alone, unless somebody at the
 * bench lets others in. Bundled into `dist/server` beside Astro's own handler, which answers the rest.
 */
const port = Number(process.env.PORT ?? 4780);
const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
type Handler = (request: IncomingMessage, response: ServerResponse, next: () => void) => void;
// Beside this file once it is built; named so that the bundler leaves it alone.
const { handler } = (await import(new URL("./entry.mjs", import.meta.url).href)) as { handler: Handler };
const pages = pagesOf(here("../client/"));
const headers = Object.entries(securityHeaders(scriptHashesIn(here("./scripts.json"))));
const wires = new Wires();
const inner = innerDoor(port);
const remote = new Remote(port, servePads);

const callerOf = ({ headers: { host, origin, "sec-fetch-site": site } }: IncomingMessage, isUpgrade: boolean) => ({
  host,
  origin,
  site: typeof site === "string" ? site : undefined,
  isUpgrade,
});

function refuse(response: ServerResponse, status: number, sentence: string): void {
  response.writeHead(status, { "Content-Type": "text/plain; charset=utf-8" }).end(sentence);
}

async function answerPorts(response: ServerResponse): Promise<void> {
  try {
    response.writeHead(200, { "Content-Type": "application/json", "Cache-Control": "no-store" });
    response.end(JSON.stringify(await listPorts()));
  } catch {
    response.end("[]");
  }
}

const pathOf = ({ url }: IncomingMessage) => (url ?? "/").split("?")[0] ?? "/";

/** Looks at a request before anything else does. Gives its path where it may go on. */
function admitted(request: IncomingMessage, response: ServerResponse, door: Door): string | null {
  for (const [name, value] of headers) response.setHeader(name, value);
  const path = pathOf(request);
  // A link on another site may lead to a page; nothing but a page of ours may ask for more.
  const isPage = !path.startsWith("/api/");
  const caller = callerOf(request, false);
  const refusal = whyRefused(isPage ? { ...caller, site: undefined } : caller, door);
  if (!refusal) return path;
  refuse(response, 403, refusal);
  return null;
}

/** Answers what a pad asks for, at whichever door. Says whether it was that. */
function servedPad(request: IncomingMessage, response: ServerResponse, path: string, door: Door): boolean {
  if (path === "/api/pad/pair" && request.method === "POST" && request.headers.origin !== undefined)
    void remote.pair(request, response, door).catch(() => response.destroy());
  else if (path === "/api/pad/me" && request.method === "GET") {
    response.writeHead(200, { "Content-Type": "application/json", "Cache-Control": "no-store" });
    response.end(JSON.stringify({ isLetIn: remote.knows(request) }));
  } else return false;
  return true;
}

const server = createServer((request, response) => {
  const path = admitted(request, response, inner);
  if (path === null || servedPad(request, response, path, inner)) return;
  if (path === "/api/ports") void answerPorts(response);
  else
    pages(request, response, () => handler(request, response, () => refuse(response, 404, "There is no such page.")));
});

/** What a pad's page loads; nothing else of the bench is shown to the local network. */
const padFiles = /^\/(pad\/?|icon\.svg|_astro\/[\w.-]+)$/;

/** What answers at a door to the local network. */
function servePads(door: Door): RequestListener {
  return (request, response) => {
    const path = admitted(request, response, door);
    if (path === null || servedPad(request, response, path, door)) return;
    const mayBeSeen = (request.method === "GET" || request.method === "HEAD") && padFiles.test(path);
    if (mayBeSeen) pages(request, response, () => refuse(response, 404, "There is no such page."));
    else refuse(response, 404, "Only pads are let in here: open /pad.");
  };
}

function refuseSocket(socket: Duplex, sentence: string): void {
  socket.on("error", () => {});
  socket.end(
    `HTTP/1.1 403 Forbidden\r\nContent-Type: text/plain; charset=utf-8\r\nConnection: close\r\n\r\n${sentence}`,
  );
}

server.on("upgrade", (request, socket, head) => {
  const refusal = whyRefused(callerOf(request, true), inner);
  if (refusal) return refuseSocket(socket, refusal);
  if (request.url === "/api/wire") return wires.take(request, socket, head);
  if (request.url === "/api/remote") return remote.takeBench(request, socket, head);
  takePad(request, socket, head);
});
remote.onUpgrade = (request, socket, head, door) => {
  const refusal = whyRefused(callerOf(request, true), door);
  if (refusal) refuseSocket(socket, refusal);
  else takePad(request, socket, head);
};

function takePad(request: IncomingMessage, socket: Duplex, head: Buffer): void {
  if (request.url === "/api/pad") remote.takePad(request, socket, head, (sentence) => refuseSocket(socket, sentence));
  else refuseSocket(socket, "No wire is there.");
}

// Every board is told to let go before the server is gone; whatever becomes of the pads.
letGoAtTheEnd(() => Promise.allSettled([wires.end(), remote.end()]), 0);

server.listen(port, process.env.HOST ?? "127.0.0.1");
if (process.env.OPEN) {
  const addresses = await remote.stayOpen(Boolean(process.env.TLS));
  console.log(`Others are let in: ${addresses.join(" and ")}`);
}
