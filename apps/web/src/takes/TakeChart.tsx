import type { TakeBar } from '@anchorbeat/core';
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  Tooltip,
  type ChartOptions,
} from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { letterCharts, themeColour } from '../ui/chartTheme.ts';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);
letterCharts();

/** Bar after bar: how early or late on the whole, from one spread before to one after it; warm where that is told. */
export function TakeChart({ bars, toldMs }: { readonly bars: readonly TakeBar[]; readonly toldMs: number }) {
  const colour = themeColour;
  const played = bars.flatMap(({ name, meanMs, spreadMs }) =>
    meanMs === null ? [] : [{ name, mean: meanMs, spread: Math.max(4, spreadMs ?? 4) }],
  );
  const options: ChartOptions<'bar'> = {
    responsive: true,
    maintainAspectRatio: false,
    animation: false,
    scales: {
      x: { ticks: { color: colour('ink'), maxRotation: 0, autoSkipPadding: 14 }, grid: { display: false } },
      y: {
        suggestedMin: -60,
        suggestedMax: 60,
        ticks: { color: colour('ink'), callback: (value) => `${value} ms` },
        grid: { color: colour('faint') },
      },
    },
    plugins: { legend: { display: false } },
  };
  return (
    <Bar
      role="img"
      aria-label={`How late each bar came: ${played.map(({ name, mean }) => `${name} ${Math.round(mean)} ms`).join(', ')}`}
      options={options}
      data={{
        labels: played.map(({ name }) => name.replace(/^bar /, '')),
        datasets: [
          {
            label: 'early below, late above',
            data: played.map(({ mean, spread }) => [mean - spread, mean + spread]),
            backgroundColor: played.map(({ mean }) => colour(Math.abs(mean) > toldMs ? 'seam' : 'carry')),
            borderSkipped: false,
            borderRadius: 4,
            maxBarThickness: 18,
          },
        ],
      }}
    />
  );
}
