import type { BenchChart } from '@anchorbeat/core';
import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
import { Bar } from 'react-chartjs-2';
import { letterCharts, themeColour as colour } from '../ui/chartTheme.ts';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);
letterCharts();

/** How late, or early, each note is: up is late. */
export function AnswerChart({ chart: { says, names, lateMs } }: { readonly chart: BenchChart }) {
  return (
    <div className="mt-4 h-44 max-w-2xl">
      <Bar
        role="img"
        aria-label={`${says}: ${names.map((name, index) => `${name} ${Math.round(lateMs[index] ?? 0)} ms`).join(', ')}`}
        options={{
          responsive: true,
          maintainAspectRatio: false,
          animation: false,
          scales: {
            x: { ticks: { color: colour('ink'), maxRotation: 0 }, grid: { display: false } },
            y: {
              suggestedMin: -10,
              suggestedMax: 10,
              ticks: { color: colour('ink'), callback: (value) => `${value} ms` },
              grid: { color: colour('faint') },
            },
          },
          plugins: { legend: { display: false } },
        }}
        data={{
          labels: [...names],
          datasets: [
            {
              label: says,
              data: [...lateMs],
              backgroundColor: colour('carry'),
              borderRadius: 4,
              maxBarThickness: 22,
            },
          ],
        }}
      />
    </div>
  );
}
