import { lastChanges, progressOf, type RehearsedSeam, type SeamChange } from '@anchorbeat/core';
import { useMemo } from 'react';
import { Bar, Line } from 'react-chartjs-2';
import type { PlacedRun } from '../seams/placedRun.ts';
import { themeColour } from '../ui/chartTheme.ts';
import { dayText } from '../ui/dayText.ts';
import { barChartOptions, lineChartOptions } from '../ui/dayCharts.ts';
import { localTime } from './season.ts';

/** The day of a moment on the clock of this place: "2026-12-01". */
const dayOf = (startedAt: string) => localTime(new Date(startedAt)).slice(0, 10);

interface LogChartsProps {
  readonly seams: readonly RehearsedSeam[];
  readonly runs: readonly PlacedRun[];
}

/** How the programme comes on: minutes run, tempo reached and share of ready seams, day by day; and what changed last time. */
export function LogCharts({ seams, runs }: LogChartsProps) {
  const days = useMemo(() => progressOf(seams, runs, dayOf), [seams, runs]);
  const changes = useMemo(() => lastChanges(seams, dayOf), [seams]);
  if (days.length === 0) return null;
  // A day alone would be midnight in Greenwich, which west of it is the day before.
  const labels = days.map(({ day }) => dayText(new Date(`${day}T00:00`)));
  return (
    <section aria-label="How it comes on" className="mt-4 grid gap-6 @4xl:grid-cols-3">
      <DayChart
        title="Minutes run"
        unit="min"
        labels={labels}
        values={days.map(({ minutes }) => minutes)}
        isBars
      />
      <DayChart
        title="Tempo reached, of its goal"
        unit="%"
        labels={labels}
        values={days.map(({ tempoShare }) => 100 * tempoShare)}
      />
      <DayChart
        title="Seams that are ready"
        unit="%"
        labels={labels}
        values={days.map(({ readyShare }) => 100 * readyShare)}
      />
      {changes.length > 0 && <LastChanges changes={changes} day={labels.at(-1) ?? ''} />}
    </section>
  );
}

interface DayChartProps {
  readonly title: string;
  readonly unit: string;
  readonly labels: readonly string[];
  readonly values: readonly number[];
  readonly isBars?: boolean;
}

function DayChart({ title, unit, labels, values, isBars = false }: DayChartProps) {
  const whole = values.map((value) => Math.round(value * 10) / 10);
  const range = isBars ? { suggestedMin: 0 } : { suggestedMin: 0, suggestedMax: 100 };
  const said = `${title}: ${labels.map((day, index) => `${day} ${Math.round(values[index] ?? 0)} ${unit}`).join(', ')}`;
  const data = {
    labels: [...labels],
    datasets: [
      {
        label: title,
        data: whole,
        backgroundColor: themeColour('carry'),
        borderColor: themeColour('carry'),
        borderWidth: 2,
        pointRadius: 4,
      },
    ],
  };
  return (
    <figure>
      <figcaption className="text-lg font-semibold">
        {title} <b className="numeral">{Math.round(values.at(-1) ?? 0)}</b> {unit}
      </figcaption>
      <div className="h-40">
        {isBars ? (
          <Bar role="img" aria-label={said} options={barChartOptions(unit)} data={data} />
        ) : (
          <Line role="img" aria-label={said} options={lineChartOptions(unit, range)} data={data} />
        )}
      </div>
    </figure>
  );
}

const CHANGE_WORDS: Readonly<Record<SeamChange['change'], string>> = {
  ready: 'ready now',
  faster: 'faster',
  'fell back': 'fell back',
  begun: 'run for the first time',
};

/** What the last day changed, in words. */
function LastChanges({ changes, day }: { readonly changes: readonly SeamChange[]; readonly day: string }) {
  return (
    <div className="@4xl:col-span-3">
      <h2 className="text-lg font-semibold">What changed on {day}</h2>
      <ul className="mt-1 grid gap-x-6 @4xl:grid-cols-2">
        {changes.map(({ title, change, fromPercent, toPercent }) => (
          <li key={title} className="flex flex-wrap gap-x-3 border-b border-faint py-1">
            <span className="min-w-0 flex-1">{title}</span>
            <span
              className={change === 'fell back' ? 'font-semibold text-seam' : 'font-semibold text-carry-text'}
            >
              {CHANGE_WORDS[change]}
            </span>
            <span className="numeral text-quiet">
              {toPercent === null
                ? 'none good yet'
                : `${fromPercent === null ? '' : `${Math.round(fromPercent)} → `}${Math.round(toPercent)} %`}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
