import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
  type ChartOptions,
} from 'chart.js';
import { letterCharts, themeColour } from './chartTheme.ts';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
);
letterCharts();

/** How a chart of lines looks: days below, values with their unit at the side, no legend. */
export function lineChartOptions(
  unit: string,
  range: { readonly suggestedMin?: number; readonly suggestedMax?: number },
): ChartOptions<'line'> {
  return {
    responsive: true,
    maintainAspectRatio: false,
    animation: false,
    scales: {
      x: {
        ticks: { color: themeColour('ink'), maxRotation: 0, autoSkipPadding: 16 },
        grid: { display: false },
      },
      y: {
        ...range,
        ticks: { color: themeColour('ink'), callback: (value) => `${value} ${unit}` },
        grid: { color: themeColour('faint') },
      },
    },
    plugins: { legend: { display: false } },
  };
}

/** How a chart of bars looks: from nothing up, as the lines beside it. */
export function barChartOptions(unit: string): ChartOptions<'bar'> {
  const { scales } = lineChartOptions(unit, { suggestedMin: 0 });
  return {
    responsive: true,
    maintainAspectRatio: false,
    animation: false,
    ...(scales && { scales }),
    plugins: { legend: { display: false } },
  };
}
