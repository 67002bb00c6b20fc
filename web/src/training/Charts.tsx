// Charts larger than a strip, loaded where one is looked at; what they show stands in a table too.
import { BarChart, LineChart } from "@mantine/charts";
import "@mantine/charts/styles.css";
import "@mantine/core/styles/ColorSwatch.css";
import type { Schemas } from "../api/client";
import { brief, dayAt, dayNumber, minutes } from "../ui/dates";

const STILL = { isAnimationActive: false };
// The table beside it is what is read and gone through by keys.
const SILENT = { accessibilityLayer: false };

// Until something is pointed at there is no day.
const onDay = (days: unknown) => (Number.isFinite(days) ? brief(dayAt(Number(days))) : "");

/** Results on one board over time. Better is up: a time's axis is turned over. */
export function BoardChart({ board }: { board: Schemas["BoardTrend"] }) {
  const timed = board.kind === "time";
  // A number between two results of rounds and reps has no name of its own.
  const shown = (value: number) =>
    board.points.find((point) => point.number === value)?.display ??
    (timed ? minutes(value) : board.kind === "rounds" ? "" : String(Math.round(value * 10) / 10));
  const data = board.points.map((point) => ({
    day: dayNumber(point.date),
    result: point.number,
  }));
  const numbers = board.points.map((point) => point.number);
  const best = timed ? Math.min(...numbers) : Math.max(...numbers);
  return (
    <LineChart
      h={170}
      data={data}
      dataKey="day"
      series={[{ name: "result", label: "Result", color: "var(--pine)" }]}
      curveType="linear"
      withDots
      tickLine="x"
      gridAxis="y"
      referenceLines={[{ y: best, label: `best ${shown(best)}`, color: "var(--resin)" }]}
      valueFormatter={shown}
      lineProps={STILL}
      lineChartProps={SILENT}
      yAxisProps={{
        reversed: timed,
        domain: ["auto", "auto"],
        width: 46,
        padding: { top: 18, bottom: 6 },
        tickFormatter: shown,
      }}
      xAxisProps={{
        type: "number",
        domain: ["dataMin", "dataMax"],
        tickFormatter: onDay,
        padding: { left: 18, right: 18 },
      }}
      tooltipProps={{ labelFormatter: (label) => onDay(label) }}
    />
  );
}

/** What each week asked. */
export function LoadChart({ weeks }: { weeks: readonly Schemas["WeekLoad"][] }) {
  return (
    <BarChart
      h={150}
      data={weeks.map((week) => ({ week: brief(week.monday).slice(4), load: week.load }))}
      dataKey="week"
      series={[{ name: "load", label: "Load", color: "var(--pine-fresh)" }]}
      tickLine="x"
      gridAxis="y"
      valueFormatter={(value) => String(Math.round(value))}
      barProps={STILL}
      barChartProps={SILENT}
      yAxisProps={{ width: 46 }}
      tooltipProps={{ labelFormatter: (label) => `week of ${label}` }}
    />
  );
}

/** Several athletes' rounds as lines over each other. */
export function RoundsChart({
  labels,
  unit,
  athletes,
}: {
  labels: readonly string[];
  unit: string;
  athletes: readonly {
    name: string;
    values: readonly number[];
    color: string;
    dashed: boolean;
  }[];
}) {
  const shown = (value: number) => (unit === "s" ? minutes(value) : String(value));
  return (
    <LineChart
      h={210}
      data={labels.map((label, at) => ({
        label,
        ...Object.fromEntries(athletes.map((one) => [one.name, one.values[at] ?? null])),
      }))}
      dataKey="label"
      series={athletes.map(({ name, color, dashed }) => ({
        name,
        color,
        strokeDasharray: dashed ? "6 4" : undefined,
      }))}
      curveType="linear"
      withLegend
      tickLine="x"
      gridAxis="y"
      valueFormatter={shown}
      lineProps={STILL}
      lineChartProps={SILENT}
      yAxisProps={{ domain: ["auto", "auto"], width: 46, tickFormatter: shown }}
    />
  );
}
