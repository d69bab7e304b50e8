import type { Board } from "@core/project";
import {
  type Direction,
  newWire,
  type Wire,
  type WireKind,
  type WireOf,
  wireNames,
  wireSchema,
  wireWords,
} from "@core/wire";
import { notify } from "@stores/notices";
import { chooseBrowserPort, hasBrowserPorts, openWire, type ServerPort, serverPorts } from "@stores/wires";
import { type ComponentType, useEffect, useId, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { QuantityField } from "../parts/QuantityField";

interface WireChoiceProps {
  readonly board: Board;
  readonly onDone: () => void;
}

interface FieldsProps<Of extends Wire> {
  readonly wire: Of;
  readonly isBus: boolean;
  readonly onWire: (wire: Wire) => void;
}
type Fields<Kind extends WireKind> = FieldsProps<WireOf<Kind>>;

/** Which wire leads to a board, and which port. Choosing opens nothing yet; opening moves nothing. */
export function WireChoice({ board, onDone }: WireChoiceProps) {
  const [wire, setWire] = useState<Wire>(board.link);
  const kinds = Object.entries(wireNames) as [WireKind, string][];
  const KindFields = fields[wire.kind] as ComponentType<FieldsProps<Wire>>;
  const isPossible = wireSchema.safeParse(wire).success && !(wire.kind === "browserPort" && wire.vendorId === null);
  const open = () => {
    if (openWire(board.id, wire)) onDone();
  };
  return (
    <div className="mt-2 space-y-2 rounded-box border border-base-300 bg-base-100 p-3">
      <ChoiceField
        label={`The wire to ${board.label}`}
        value={wire.kind}
        choices={kinds}
        onChoose={(kind) => setWire(kind === board.link.kind ? board.link : newWire(kind))}
      />
      <KindFields wire={wire} isBus={board.encoding.kind === "bus"} onWire={setWire} />
      <div className="flex items-center gap-2">
        <button type="button" className="btn btn-primary btn-sm" disabled={!isPossible} onClick={open}>
          {wire.kind === "simulated" ? "Simulate it" : `Open ${wireWords(wire)}`}
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onDone}>
          Leave it as it is
        </button>
        <p className="caption">Opening moves nothing: its joints stay limp until you hold them.</p>
      </div>
    </div>
  );
}

/** What each kind of wire asks for; the compiler misses any that is left out. */
const fields: { readonly [Kind in WireKind]: ComponentType<Fields<Kind>> } = {
  simulated: () => <p className="text-sm">The board and its servos are simulated within the bench.</p>,
  browserPort: BrowserPortFields,
  serverPort: ServerPortFields,
  tcp: TcpFields,
};

const directionWords = [
  ["none", "turns round by itself"],
  ["rts high", "RTS is high while it sends"],
  ["rts low", "RTS is low while it sends"],
  ["dtr high", "DTR is high while it sends"],
  ["dtr low", "DTR is low while it sends"],
] as const;

interface DirectionFieldProps {
  readonly direction: Direction | undefined;
  readonly onDirection: (direction: { readonly direction?: Direction }) => void;
}

/** Some adapters of a half-duplex wire must be told by a line of the port when they are to send. */
const DirectionField = ({ direction, onDirection }: DirectionFieldProps) => (
  <ChoiceField
    label="The adapter"
    value={direction ?? "none"}
    choices={directionWords}
    onChoose={(chosen) => onDirection(chosen === "none" ? {} : { direction: chosen })}
  />
);

/** The same wire with another direction line, or without one. */
function directed<Of extends WireOf<"serverPort" | "browserPort">>(
  { direction: _, ...wire }: Of,
  chosen: { readonly direction?: Direction },
) {
  return { ...wire, ...chosen } as Of;
}

interface SpeedFieldProps {
  readonly bitsPerS: number;
  readonly isBus: boolean;
  readonly onSpeed: (bitsPerS: number) => void;
}

/** A board has the speed of its program; a bus that of its devices, set at station Bus. */
function SpeedField({ bitsPerS, isBus, onSpeed }: SpeedFieldProps) {
  if (isBus) return <p className="caption">It runs at the speed of the bus, which is set at station Bus.</p>;
  return (
    <QuantityField
      label="Speed"
      value={bitsPerS}
      unit="bit/s"
      decimals={0}
      onCommit={(value) => {
        if (!(value >= 300 && value <= 12_000_000)) return "A serial port runs at 300 to 12 000 000 bit/s.";
        onSpeed(Math.round(value));
        return null;
      }}
    />
  );
}

function BrowserPortFields({ wire, isBus, onWire }: Fields<"browserPort">) {
  if (!hasBrowserPorts())
    return (
      <p className="text-sm">
        This browser cannot open serial ports. Take a port of the computer that serves Vantel, or another browser.
      </p>
    );
  const choose = async () => {
    const chosen = await chooseBrowserPort(wire.bitsPerS);
    if (chosen) onWire(chosen);
    else notify("No port was chosen.");
  };
  return (
    <div className="grid grid-cols-2 items-end gap-3">
      <button type="button" className="btn btn-outline btn-sm" onClick={() => void choose()}>
        {wire.vendorId === null ? "Choose a port…" : "Choose another port…"}
      </button>
      <SpeedField bitsPerS={wire.bitsPerS} isBus={isBus} onSpeed={(bitsPerS) => onWire({ ...wire, bitsPerS })} />
      {isBus && <DirectionField direction={wire.direction} onDirection={(chosen) => onWire(directed(wire, chosen))} />}
    </div>
  );
}

const lookEveryMs = 1000;
const portWords = ({ path, maker, serialNumber, vendorId, productId }: ServerPort) =>
  [path, maker, vendorId && `${vendorId}:${productId}`, serialNumber && `no. ${serialNumber}`]
    .filter(Boolean)
    .join(", ");

/** The ports of the server's computer, looked at every second: one that goes and comes again is the one that was pulled out. */
function ServerPortFields({ wire, isBus, onWire }: Fields<"serverPort">) {
  const id = useId();
  const [ports, setPorts] = useState<readonly ServerPort[] | null | "asking">("asking");
  const [cameLast, setCameLast] = useState<string | null>(null);
  useEffect(() => {
    let known: ReadonlySet<string> | null = null;
    const look = async () => {
      const now = await serverPorts();
      setPorts(now);
      if (!now) return;
      const came = known && now.find(({ path }) => !known?.has(path));
      if (came) setCameLast(came.path);
      known = new Set(now.map(({ path }) => path));
    };
    void look();
    const timer = setInterval(() => void look(), lookEveryMs);
    return () => clearInterval(timer);
  }, []);
  return (
    <div className="space-y-2">
      {/* The fields first: what is found out meanwhile moves nothing that somebody is about to type into. */}
      <div className="grid grid-cols-2 gap-3">
        <div>
          <label htmlFor={id} className="caption mb-0.5 block">
            Path of the port
          </label>
          <input
            id={id}
            className="input input-sm w-full bg-base-100"
            value={wire.path}
            spellCheck={false}
            onChange={(event) => onWire({ ...wire, path: event.target.value.trim() })}
          />
        </div>
        <SpeedField bitsPerS={wire.bitsPerS} isBus={isBus} onSpeed={(bitsPerS) => onWire({ ...wire, bitsPerS })} />
        {isBus && (
          <DirectionField direction={wire.direction} onDirection={(chosen) => onWire(directed(wire, chosen))} />
        )}
      </div>
      {ports === null && (
        <p className="text-sm text-error">The server of this bench does not answer. Start it: bin/start.</p>
      )}
      {Array.isArray(ports) && (
        <>
          <p className="caption">
            {ports.length === 0
              ? "The system knows no serial port now. Plug the board in, or type a path."
              : "Which one? Pull its cable out and put it in again: it is marked then."}
          </p>
          <ul className="space-y-1">
            {ports.map((port) => (
              <li key={port.path}>
                <button
                  type="button"
                  className={`btn btn-sm w-full justify-start font-normal ${port.path === wire.path ? "btn-primary" : "btn-outline"}`}
                  aria-pressed={port.path === wire.path}
                  onClick={() => onWire({ ...wire, path: port.path })}
                >
                  {portWords(port)}
                  {port.path === cameLast && <b>just plugged in</b>}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

function TcpFields({ wire, onWire }: Fields<"tcp">) {
  const id = useId();
  return (
    <div className="grid grid-cols-2 gap-3">
      <div>
        <label htmlFor={id} className="caption mb-0.5 block">
          Name or address of the computer
        </label>
        <input
          id={id}
          className="input input-sm w-full bg-base-100"
          value={wire.host}
          spellCheck={false}
          onChange={(event) => onWire({ ...wire, host: event.target.value.trim() })}
        />
      </div>
      <QuantityField
        label="Port"
        value={wire.port}
        unit=""
        decimals={0}
        onCommit={(port) => {
          if (!(port >= 1 && port <= 65_535)) return "A port is a number from 1 to 65 535.";
          onWire({ ...wire, port: Math.round(port) });
          return null;
        }}
      />
    </div>
  );
}
