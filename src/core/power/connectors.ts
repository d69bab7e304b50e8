import type { ConnectorKind } from "@core/project";

interface Connector {
  readonly name: string;
  /** Of one contact, new and clean; a run has two, there and back. */
  readonly milliohm: number;
  readonly mostA: number;
}

/** What things are plugged in with. Middle values of what the sheets of such contacts say; old and dirty ones are worse. */
export const connectors: Readonly<Record<ConnectorKind, Connector>> = {
  soldered: { name: "soldered or crimped", milliohm: 0.5, mostA: 60 },
  screw: { name: "screw terminal", milliohm: 2, mostA: 10 },
  servoPlug: { name: "servo plug", milliohm: 15, mostA: 3 },
  headerPin: { name: "pin header", milliohm: 15, mostA: 3 },
  barrel: { name: "barrel plug", milliohm: 15, mostA: 5 },
  blade: { name: "blade", milliohm: 3, mostA: 15 },
  breadboard: { name: "breadboard", milliohm: 40, mostA: 1 },
  heavy: { name: "heavy battery plug", milliohm: 0.6, mostA: 40 },
};

/** A switch in a run, closed. */
export const switchMilliohm = 15;
