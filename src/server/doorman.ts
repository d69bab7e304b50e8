/** What of a request is looked at before anything is done. */
export interface Caller {
  readonly host: string | undefined;
  readonly origin: string | undefined;
  /** What the browser says of where a request comes from; missing from what is no browser. */
  readonly site: string | undefined;
  /** It would open a socket: there the browser always says where it comes from. */
  readonly isUpgrade: boolean;
}

/** What a door answers to. */
export interface Door {
  readonly scheme: "http" | "https";
  /** By what names it may be called: a page of another site reaches it by a name of its own, if it makes one point here. */
  readonly names: readonly string[];
  readonly port: number;
}

/** The door to this computer's own pages. */
export const innerDoor = (port: number): Door => ({ scheme: "http", names: ["127.0.0.1", "localhost", "[::1]"], port });

/**
 * Why a request is refused, in a sentence; null for one of our own pages. Behind this door servos are moved: a page of any other site must never get
 * through, neither straight nor by a name that was bound to this machine.
 */
export function whyRefused({ host, origin, site, isUpgrade }: Caller, { scheme, names, port }: Door): string | null {
  const hosts = names.map((name) => `${name}:${port}`);
  if (host === undefined || !hosts.includes(host))
    return `This server answers to ${hosts.slice(0, 2).join(" and to ")} only, not to “${host ?? "no name"}”.`;
  if (origin !== undefined && origin !== `${scheme}://${host}`)
    return `A page of ${origin} may not talk to this bench. Only its own pages may.`;
  if (isUpgrade && origin === undefined)
    return "A socket is opened by a page of this bench, which says where it comes from.";
  if (site !== undefined && site !== "same-origin" && site !== "none")
    return "A page of another site may not talk to this bench.";
  return null;
}
