import type { TakeRecord } from '@anchorbeat/core';
import { Line } from 'react-chartjs-2';
import { themeColour } from '../ui/chartTheme.ts';
import { lineChartOptions } from '../ui/dayCharts.ts';

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
  const said = takes.map(
    ({ when, offMs, isHeld }) => `${when} ${Math.round(offMs)} ms${isHeld ? ', held' : ''}`,
  );
  return (
    <Line
      role="img"
      aria-label={`How far off each take came here: ${said.join('; ')}`}
      options={lineChartOptions('ms', { suggestedMin: 0, suggestedMax: 80 })}
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
