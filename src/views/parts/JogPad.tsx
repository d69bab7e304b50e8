import { type JogSize, jogSizes, jogSteps } from "@core/rig";
import { formatNumber } from "./format";

interface JogPadProps {
  readonly unit: keyof typeof jogSteps;
  readonly onJog: (by: number) => void;
  /** Whether the keys , and . do the same here. */
  readonly hasKeys?: boolean;
}

const keysOf: Readonly<Record<JogSize, string>> = { fine: "Alt , .", normal: ", .", coarse: "Shift , ." };

const stepText = (unit: JogPadProps["unit"], step: number) =>
  unit === "spin" ? `${formatNumber(step * 100, 0)}%` : `${step}${unit === "°" ? "°" : ""}`;

/** Three step sizes, down and up, each with its size in the open. */
export function JogPad({ unit, onJog, hasKeys = true }: JogPadProps) {
  return (
    <div className="grid grid-cols-3 gap-2">
      {jogSizes.map((size) => {
        const step = jogSteps[unit][size];
        const shown = stepText(unit, step);
        return (
          <div key={size}>
            <div className="caption mb-0.5 text-center">
              {size} {unit === "µs" || unit === "ticks" ? unit : ""}
            </div>
            <div className="join flex">
              {([-1, 1] as const).map((way) => (
                <button
                  key={way}
                  type="button"
                  className="btn btn-sm number join-item min-w-0 grow border-base-content/30 bg-base-100 px-0.5 text-[0.8rem] font-normal"
                  aria-label={`Jog ${way < 0 ? "down" : "up"} ${shown}`}
                  title={hasKeys ? `Key ${keysOf[size]}` : undefined}
                  onClick={() => onJog(way * step)}
                >
                  {way < 0 ? "−" : "+"}
                  {shown}
                </button>
              ))}
            </div>
          </div>
        );
      })}
      {hasKeys && (
        <p className="caption col-span-3 text-center">
          Keys <kbd>,</kbd> <kbd>.</kbd> everywhere; <kbd>Shift</kbd> coarse, <kbd>Alt</kbd> fine
        </p>
      )}
    </div>
  );
}
