import { type KindSchema, kindTable, namesOf, type UnionOf, unionSchema } from "@core/schema";
import { browserPort } from "./browserPort";
import { serverPort } from "./serverPort";
import { simulated } from "./simulated";
import { tcp } from "./tcp";
import { type Direction, type WireKind as Entry, linesOf } from "./wireKind";

export { type ServerAsk, type ServerTold, serverAskSchema, serverToldSchema } from "./serverTalk";
export { type Direction, linesOf };

/** Every kind of wire, in the order in which they are offered. A new one is a file, and a line here. */
const table = kindTable({ simulated, browserPort, serverPort, tcp });

/** How the bytes of a link travel. */
export const wireSchema = unionSchema(table);
export type Wire = UnionOf<typeof table>;
export type WireKind = Wire["kind"];
export type WireOf<Kind extends WireKind> = Extract<Wire, { kind: Kind }>;
/** A wire at whose other end something real may hang. */
export type RealWire = Exclude<Wire, { kind: "simulated" }>;

const entryOf = (kind: WireKind) => table[kind] as unknown as Entry<KindSchema, Wire>;

/** What each kind of wire is called, in the order in which they are offered. */
export const wireNames = namesOf(table);

/** A wire of a kind, as it begins. */
export const newWire = <Kind extends WireKind>(kind: Kind): WireOf<Kind> => entryOf(kind).begin() as WireOf<Kind>;

/** Which wire it is, for a sentence. */
export const wireWords = (wire: Wire): string => entryOf(wire.kind).words(wire);

/** How a stream of bytes is: the sentence of a lost one says what happened, and what to do. */
export type StreamLife =
  | { readonly kind: "closed" | "opening" | "open" }
  | { readonly kind: "lost"; readonly sentence: string };
