import { QuantityField } from "../parts/QuantityField";

interface VoltFieldProps {
  readonly label: string;
  /** In V; NaN for one that nobody has said. */
  readonly value: number;
  readonly onCommit: (volts: number) => string | null;
  /** Where it may stay unsaid: what stands there then, and what becomes of it. */
  readonly emptyWords?: string;
  readonly onEmpty?: () => string | null;
}

const volts = { V: 1, mV: 0.001 };

/** A voltage, in V or mV. */
export function VoltField(props: VoltFieldProps) {
  return <QuantityField {...props} unit="V" units={volts} decimals={2} step={0.1} />;
}
