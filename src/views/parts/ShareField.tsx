import { formatNumber } from "./format";
import { QuantityField } from "./QuantityField";

interface ShareFieldProps {
  readonly label: string;
  /** 0…1; shown and typed in percent. */
  readonly share: number;
  readonly low?: number;
  readonly high?: number;
  readonly decimals?: number;
  readonly onCommit: (share: number) => string | null;
  readonly className?: string;
}

/** A share of a whole, in percent; its limits are told in percent as well. */
export const ShareField = ({ share, low = 0, high = 1, decimals = 0, onCommit, ...field }: ShareFieldProps) => (
  <QuantityField
    {...field}
    value={share * 100}
    unit="%"
    decimals={decimals}
    onCommit={(percent) => {
      if (percent > high * 100) return `This can be at most ${formatNumber(high * 100, decimals)} %.`;
      if (percent < low * 100) return `This must be at least ${formatNumber(low * 100, decimals)} %.`;
      return onCommit(percent / 100);
    }}
  />
);
