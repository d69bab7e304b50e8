/** A number for reading: fixed decimals, a true minus, and a dash where there is none. */
export function formatNumber(value: number, decimals: number): string {
  if (!Number.isFinite(value)) return "—";
  const text = value.toFixed(decimals);
  // −0.0 is a zero that only rounding made negative.
  return Number(text) === 0 ? (0).toFixed(decimals) : text.replace("-", "−");
}

const decimalsOf: Readonly<Record<string, number>> = {
  "°": 1,
  µs: 1,
  ms: 4,
  "%": 3,
  ticks: 0,
  tick: 0,
  count: 0,
  spin: 2,
};

/** A number with its unit and the decimals that unit is read with. */
export function formatIn(value: number, unit: string): string {
  if (!Number.isFinite(value)) return "—";
  const number = formatNumber(value, decimalsOf[unit] ?? 1);
  return unit === "°" || unit === "" || unit === "spin" ? `${number}${unit === "°" ? "°" : ""}` : `${number} ${unit}`;
}

/** A span of time as a person says it: 0.35 s, 12.0 s, 3 min 05 s. */
export function formatTime(ms: number): string {
  const seconds = ms / 1000;
  if (seconds < 10) return `${seconds.toFixed(2)} s`;
  if (seconds < 60) return `${seconds.toFixed(1)} s`;
  return `${Math.floor(seconds / 60)} min ${String(Math.floor(seconds % 60)).padStart(2, "0")} s`;
}

/** A date as it stands on a card: day and hour in the person's own zone, ISO order. */
export function formatDate(iso: string): string {
  const date = new Date(iso);
  const two = (value: number) => String(value).padStart(2, "0");
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())} ${two(date.getHours())}:${two(date.getMinutes())}`;
}

/** So many of a thing, in words: 1 joint, 2 joints. */
export const counted = (count: number, thing: string): string => `${count} ${thing}${count === 1 ? "" : "s"}`;
