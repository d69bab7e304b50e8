import { createServer, type IncomingMessage, type ServerResponse } from "node:http";
import { fileURLToPath } from "node:url";
import { whyRefused } from "./doorman";
import { pagesOf, scriptHashesIn, securityHeaders } from "./pages";
import { listPorts } from "./ports";
import { Wires } from "./wires";

/**
 * The server: the built pages, what they ask of it, and the wires that it opens for them. On this machine alone.
 * Bundled into `dist/server` beside Astro's own handler, which answers the rest.
 */
const port = Number(process.env.PORT ?? 4780);
const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
type Handler = (request: IncomingMessage, response: ServerResponse, next: () => void) => void;
// Beside this file once it is built; named so that the bundler leaves it alone.
const { handler } = (await import(new URL("./entry.mjs", import.meta.url).href)) as { handler: Handler };
const pages = pagesOf(here("../client/"));
const headers = Object.entries(securityHeaders(scriptHashesIn(here("./scripts.json"))));
const wires = new Wires();

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

const server = createServer((request, response) => {
  for (const [name, value] of headers) response.setHeader(name, value);
  const path = (request.url ?? "/").split("?")[0];
  // A link on another site may lead to a page; nothing but a page of ours may ask for more.
  const isPage = !path?.startsWith("/api/");
  const caller = callerOf(request, false);
  const refusal = whyRefused(isPage ? { ...caller, site: undefined } : caller, port);
  if (refusal) refuse(response, 403, refusal);
  else if (path === "/api/ports") void answerPorts(response);
  else
    pages(request, response, () => handler(request, response, () => refuse(response, 404, "There is no such page.")));
});

server.on("upgrade", (request, socket, head) => {
  const refusal =
    whyRefused(callerOf(request, true), port) ?? (request.url === "/api/wire" ? null : "No wire is there.");
  if (!refusal) return wires.take(request, socket, head);
  socket.end(
    `HTTP/1.1 403 Forbidden\r\nContent-Type: text/plain; charset=utf-8\r\nConnection: close\r\n\r\n${refusal}`,
  );
});

/** Every board is told to let go before the server is gone. */
async function end(): Promise<void> {
  await wires.end();
  process.exit(0);
}
process.on("SIGINT", () => void end());
process.on("SIGTERM", () => void end());

server.listen(port, process.env.HOST ?? "127.0.0.1");
