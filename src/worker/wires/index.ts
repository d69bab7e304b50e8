import type { RealWire } from "@core/wire";
import { openBrowserPort } from "./browserAttempt";
import { type Attempt, type AttemptEars, type ByteStream, LastingStream } from "./byteStream";
import { openSocket } from "./socketAttempt";

export type { ByteStream } from "./byteStream";

type Opener<Wire> = (wire: Wire, ears: AttemptEars, bitsPerS: number | null) => Attempt;

/** How each kind of wire is opened; the compiler misses any that is left out. */
const openers: { readonly [Kind in RealWire["kind"]]: Opener<Extract<RealWire, { kind: Kind }>> } = {
  browserPort: openBrowserPort,
  serverPort: openSocket,
  tcp: openSocket,
};

/** Opens a wire, and opens it again whenever it was lost. */
export const openStream = (wire: RealWire): ByteStream =>
  new LastingStream((ears, bitsPerS) => (openers[wire.kind] as Opener<RealWire>)(wire, ears, bitsPerS));
