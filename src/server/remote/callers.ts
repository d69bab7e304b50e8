import type { IncomingMessage } from "node:http";
import { hostname } from "node:os";

const nameAtMost = 40;
const pairBytesAtMost = 400;

/** Who is at the other end of the wire itself: no header is believed. */
export const addressOf = ({ socket }: IncomingMessage) => (socket.remoteAddress ?? "nowhere").replace(/^::ffff:/, "");
export const agentOf = ({ headers }: IncomingMessage) => (headers["user-agent"] ?? "").slice(0, 300);

/** What a browser says it runs on, as far as it names it. */
export function agentWords(agent: string): string {
  const system = /\(([^)]*)\)/.exec(agent)?.[1]?.split(";")[0]?.trim() ?? "";
  return system.slice(0, 60);
}

/** Reads the code and the name with which a device asks to be let in; what is longer, no JSON, or not what it should be is null. */
export async function pairingIn(
  request: IncomingMessage,
): Promise<{ readonly code: string; readonly name: string } | null> {
  let body = "";
  for await (const chunk of request) {
    body += String(chunk);
    if (body.length > pairBytesAtMost) return null;
  }
  try {
    const { code, name } = JSON.parse(body) as { code?: unknown; name?: unknown };
    if (typeof code !== "string" || !/^\d{6}$/.test(code) || typeof name !== "string") return null;
    // Nothing that is no letter, and nothing that turns the writing round.
    const clean = name
      .replace(/[\p{C}]/gu, "")
      .trim()
      .slice(0, nameAtMost);
    return { code, name: clean || `Pad of ${hostname()}`.slice(0, nameAtMost) };
  } catch {
    return null;
  }
}

/** What a device is told whose code was none. */
export const guessWords = {
  wrong: "That is not the code. Look at the bench once more.",
  "worn out": "No code is good at the moment. Ask for a new one at the bench.",
  "too many": "Too many codes were tried. Wait a minute.",
} as const;
