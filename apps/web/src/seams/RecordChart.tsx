import { Line } from 'react-chartjs-2';
import { themeColour } from '../ui/chartTheme.ts';
import { lineChartOptions } from '../ui/dayCharts.ts';
import { dayText } from '../ui/dayText.ts';
import type { PlacedRun } from './placedRun.ts';

/** Tempo reached against its goal, run after run: a dot is good, a cross again, a ring unmarked. */
export function RecordChart({ runs }: { readonly runs: readonly PlacedRun[] }) {
  const colour = themeColour;
  const shapes = runs.map(({ mark }) => (mark === 'again' ? 'crossRot' : 'circle'));
  return (
    <Line
      role="img"
      aria-label={`Tempo reached of the printed one: ${runs
        .map(({ percent, mark }) => `${Math.round(percent)} % ${mark ?? 'unmarked'}`)
        .join(', ')}`}
      options={lineChartOptions('%', { suggestedMin: 40, suggestedMax: 105 })}
      data={{
        labels: runs.map(({ startedAt }) => dayText(new Date(startedAt))),
        datasets: [
          {
            label: 'tempo reached, % of printed',
            data: runs.map(({ percent }) => percent),
            borderColor: colour('carry'),
            borderWidth: 2,
            pointStyle: shapes,
            pointRadius: runs.map(({ mark }) => (mark === 'again' ? 7 : 5)),
            pointBorderWidth: 2.5,
            pointBorderColor: runs.map(({ mark }) => colour(mark === 'again' ? 'seam' : 'carry')),
            pointBackgroundColor: runs.map(({ mark }) => colour(mark === 'good' ? 'carry' : 'ground')),
          },
          {
            label: 'goal',
            data: runs.map(({ goalPercent }) => goalPercent),
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
