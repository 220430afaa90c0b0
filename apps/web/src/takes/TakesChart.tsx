import type { TakeRecord } from '@anchorbeat/core';
import {
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartOptions,
} from 'chart.js';
import { Line } from 'react-chartjs-2';
import { letterCharts, themeColour } from '../ui/chartTheme.ts';

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);
letterCharts();

/** A take in a row of them. */
export interface ShownTake {
  readonly when: string;
  readonly take: Pick<TakeRecord, 'spreadMs'>;
  /** How far off it came at the place that is looked at, at most, in milliseconds. */
  readonly offMs: number;
  readonly isHeld: boolean;
}

/** Take after take: how far off at the place, and how widely spread. A dot held, a cross did not. */
export function TakesChart({ takes }: { readonly takes: readonly ShownTake[] }) {
  const colour = themeColour;
  const options: ChartOptions<'line'> = {
    responsive: true,
    maintainAspectRatio: false,
    animation: false,
    scales: {
      x: { ticks: { color: colour('ink'), maxRotation: 0, autoSkipPadding: 16 }, grid: { display: false } },
      y: {
        beginAtZero: true,
        suggestedMax: 80,
        ticks: { color: colour('ink'), callback: (value) => `${value} ms` },
        grid: { color: colour('faint') },
      },
    },
    plugins: { legend: { display: false } },
  };
  const said = takes.map(
    ({ when, offMs, isHeld }) => `${when} ${Math.round(offMs)} ms${isHeld ? ', held' : ''}`,
  );
  return (
    <Line
      role="img"
      aria-label={`How far off each take came here: ${said.join('; ')}`}
      options={options}
      data={{
        labels: takes.map(({ when }) => when),
        datasets: [
          {
            label: 'farthest off here',
            data: takes.map(({ offMs }) => offMs),
            borderColor: colour('seam'),
            borderWidth: 2,
            pointStyle: takes.map(({ isHeld }) => (isHeld ? 'circle' : 'crossRot')),
            pointRadius: takes.map(({ isHeld }) => (isHeld ? 5 : 7)),
            pointBorderWidth: 2.5,
            pointBorderColor: takes.map(({ isHeld }) => colour(isHeld ? 'carry' : 'seam')),
            pointBackgroundColor: takes.map(({ isHeld }) => colour(isHeld ? 'carry' : 'ground')),
          },
          {
            label: 'spread of the whole take',
            data: takes.map(({ take }) => take.spreadMs),
            borderColor: colour('ink'),
            borderDash: [4, 4],
            borderWidth: 1.5,
            pointRadius: 0,
            pointStyle: 'line',
          },
        ],
      }}
    />
  );
}
