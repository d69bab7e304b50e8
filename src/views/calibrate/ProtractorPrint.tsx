import { PaperProtractor } from "../dial/PaperProtractor";
import { PrintSheet } from "../parts/PrintSheet";

interface ProtractorPrintProps {
  readonly sweepDeg: number;
  readonly onDone: () => void;
}

/** A protractor for paper. */
export default function ProtractorPrint({ sweepDeg, onDone }: ProtractorPrintProps) {
  return (
    <PrintSheet onDone={onDone}>
      <PaperProtractor sweepDeg={sweepDeg} />
    </PrintSheet>
  );
}
