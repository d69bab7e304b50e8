import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import { type Device, type Rights, type Standing, usualRights } from "@core/remote";
import { agentWords } from "./callers";

/** More than anybody's workshop has, and than one computer serves. */
export const devicesAtMost = 64;
export const cookieName = "vantel-pad";
const seenEveryMs = 5000;

/** A device that was let in, as this server knows it. */
export interface Session {
  device: Device;
  readonly tokenHash: Buffer;
  /** A session is bound to where it began and to what began it: a cookie that was carried off opens nothing elsewhere. */
  readonly address: string;
  readonly agent: string;
  readonly cameMs: number;
  seenMs: number;
  /** Until then it is not let in again: it said more than any thumb does. */
  barredUntilMs: number;
  /** It came from this computer. */
  readonly isFromHere: boolean;
}

const hashOf = (text: string) => createHash("sha256").update(text).digest();

/** The devices that were let in. What proves a device is a random word in a cookie that no script can read; here only its hash is kept. */
export class Sessions {
  readonly #sessions = new Map<string, Session>();

  get all(): readonly Session[] {
    return [...this.#sessions.values()];
  }

  byId(id: string): Session | undefined {
    return this.#sessions.get(id);
  }

  /** What the bench is told of them. */
  standing(isHere: (deviceId: string) => boolean): Standing["devices"] {
    return this.all.map(({ device, address, agent, cameMs, seenMs }) => ({
      device,
      isHere: isHere(device.id),
      address,
      agent: agentWords(agent),
      cameMs,
      // Now and then: it is told anew only when it is another.
      seenMs: Math.floor(seenMs / seenEveryMs) * seenEveryMs,
    }));
  }

  /** Lets a device in. Gives the cookie's value, or null where there are too many. */
  begin(name: string, address: string, agent: string, isFromHere: boolean, nowMs: number): string | null {
    if (this.#sessions.size >= devicesAtMost) return null;
    const id = randomBytes(9).toString("base64url");
    const token = randomBytes(32).toString("base64url");
    this.#sessions.set(id, {
      device: { id, name: this.#freeName(name), rights: usualRights },
      tokenHash: hashOf(token),
      address,
      agent,
      cameMs: nowMs,
      seenMs: nowMs,
      barredUntilMs: 0,
      isFromHere,
    });
    return `${id}.${token}`;
  }

  /** Whose cookie this is, from this address and this browser; null for nobody's. */
  find(cookies: string | undefined, address: string, agent: string): Session | null {
    const value = cookies
      ?.split(";")
      .map((one) => one.trim())
      .find((one) => one.startsWith(`${cookieName}=`))
      ?.slice(cookieName.length + 1);
    const [id, token, ...more] = value?.split(".") ?? [];
    const session = this.#sessions.get(id ?? "");
    if (!session || token === undefined || more.length > 0) return null;
    const isRight = timingSafeEqual(hashOf(token), session.tokenHash);
    return isRight && session.address === address && session.agent === agent ? session : null;
  }

  change(id: string, name: string, rights: Rights): void {
    const session = this.#sessions.get(id);
    if (session) session.device = { id, name, rights };
  }

  end(id: string): void {
    this.#sessions.delete(id);
  }

  /** Two of one name would not be told apart. */
  #freeName(name: string): string {
    const taken = new Set(this.all.map(({ device }) => device.name));
    for (let count = 1; ; count += 1) {
      const candidate = count === 1 ? name : `${name.slice(0, 70)} ${count}`;
      if (!taken.has(candidate)) return candidate;
    }
  }
}
