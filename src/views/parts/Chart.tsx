import {
  Bar,
  BarChart,
  CartesianGrid,
  Legend,
  Line,
  LineChart,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";

export interface ChartLine {
  readonly key: string;
  readonly label: string;
  /** It stays level from point to point and then jumps, as a commanded position does. */
  readonly isStepped?: boolean;
  /** Marks each point: for what was measured. */
  readonly hasDots?: boolean;
}

interface LineChartProps {
  readonly label: string;
  /** One record per point: `x` and a number for each line. */
  readonly points: readonly Readonly<Record<string, number | null>>[];
  readonly lines: readonly ChartLine[];
  readonly xUnit: string;
  readonly yUnit: string;
}

/** Lines are told apart by colour, by dashes and by their legend. */
const looks = [
  { stroke: "var(--color-primary)", strokeDasharray: "" },
  { stroke: "var(--color-base-content)", strokeDasharray: "6 3" },
  { stroke: "var(--color-error)", strokeDasharray: "2 3" },
  { stroke: "var(--color-secondary)", strokeDasharray: "10 3 2 3" },
  { stroke: "var(--color-success)", strokeDasharray: "4 4" },
  { stroke: "var(--color-warning)", strokeDasharray: "1 4" },
] as const;
const axis = { stroke: "var(--color-base-content)", fontSize: 12, fontFamily: "var(--font-mono)" } as const;
const paper = {
  contentStyle: { background: "var(--color-base-100)", border: "1px solid var(--color-base-300)", fontSize: 13 },
} as const;
const short = (value: unknown) => String(Number(Number(value).toFixed(3)));

export function LinesChart({ label, points, lines, xUnit, yUnit }: LineChartProps) {
  return (
    <figure aria-label={label} className="h-full min-h-52">
      <ResponsiveContainer>
        <LineChart data={points as Record<string, number | null>[]} margin={{ top: 6, right: 28, bottom: 2, left: 6 }}>
          <CartesianGrid stroke="var(--color-base-300)" />
          <XAxis
            dataKey="x"
            type="number"
            domain={["dataMin", "dataMax"]}
            unit={xUnit}
            tickFormatter={short}
            {...axis}
          />
          <YAxis unit={yUnit} width={64} tickFormatter={short} {...axis} />
          <Tooltip
            formatter={(value) => `${short(value)} ${yUnit}`}
            labelFormatter={(x) => `${short(x)} ${xUnit}`}
            {...paper}
          />
          <Legend wrapperStyle={{ fontSize: 13 }} iconType="plainline" itemSorter={null} />
          {lines.map((line, at) => (
            <Line
              key={line.key}
              dataKey={line.key}
              name={line.label}
              type={line.isStepped ? "stepAfter" : "linear"}
              dot={line.hasDots ?? false}
              connectNulls
              isAnimationActive={false}
              strokeWidth={1.8}
              {...(looks[at % looks.length] as (typeof looks)[number])}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}

interface ColumnsChartProps {
  readonly label: string;
  readonly columns: readonly { readonly x: number; readonly count: number }[];
  readonly xUnit: string;
}

/** A histogram; the height is logarithmic, since one frame in a thousand is what twitches. */
export function ColumnsChart({ label, columns, xUnit }: ColumnsChartProps) {
  return (
    <figure aria-label={label} className="h-full min-h-52">
      <ResponsiveContainer>
        <BarChart
          data={columns.map((one) => ({ ...one, shown: Math.max(one.count, 0.5) }))}
          barCategoryGap={1}
          margin={{ top: 6, right: 28, bottom: 2, left: 6 }}
        >
          <CartesianGrid stroke="var(--color-base-300)" vertical={false} />
          <XAxis dataKey="x" tickFormatter={(x) => Number(x).toFixed(1)} minTickGap={28} {...axis} />
          <YAxis scale="log" domain={[0.5, "auto"]} allowDataOverflow width={64} {...axis} />
          <Tooltip
            formatter={(_, __, item) => [`${item.payload.count} frames`, ""]}
            labelFormatter={(x) => `from ${Number(x).toFixed(1)} ${xUnit}`}
            {...paper}
          />
          <Bar dataKey="shown" fill="var(--color-primary)" isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </figure>
  );
}
