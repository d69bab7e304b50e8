import { create } from "qrcode";
import { useMemo } from "react";

/** A text as a square code (ISO/IEC 18004), with the white margin that cameras want. */
export function SquareCode({ text, className }: { readonly text: string; readonly className?: string }) {
  const { size, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: "M" });
    let drawn = "";
    for (let at = 0; at < modules.data.length; at += 1)
      if (modules.data[at]) drawn += `M${at % modules.size} ${Math.floor(at / modules.size)}h1v1h-1z`;
    return { size: modules.size, path: drawn };
  }, [text]);
  return (
    <svg
      viewBox={`-4 -4 ${size + 8} ${size + 8}`}
      className={className}
      role="img"
      aria-label={`Square code of ${text}`}
    >
      <rect x={-4} y={-4} width={size + 8} height={size + 8} fill="#ffffff" />
      <path d={path} fill="#000000" shapeRendering="crispEdges" />
    </svg>
  );
}
