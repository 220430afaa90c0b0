import type { DateResponse } from '@anchorbeat/contract';
import { verdictWords, seamTallies } from '@anchorbeat/core';
import { PLAIN_SHEET, reportDocument, type SheetDocument } from '@anchorbeat/sheets';
import { lazy, Suspense, useMemo, useState } from 'react';
import { keptSheetSettings } from '../handout/sheetChoice.ts';
import { useSheetTask } from '../handout/useSheetTask.ts';
import { Button } from '../ui/Button.tsx';
import { download } from '../ui/download.ts';
import { TextField } from '../ui/TextField.tsx';
import type { PlacedRun } from '../seams/placedRun.ts';
import type { ProgrammePiece } from './useProgramme.ts';

const MOST_SHOWN = 400;

/** Charts are loaded where something was run. */
const LogCharts = lazy(() => import('./LogCharts.tsx').then((module) => ({ default: module.LogCharts })));

/** A line of the log, in words. */
interface LogLine {
  readonly id: string;
  readonly day: string;
  readonly time: string;
  readonly piece: string;
  readonly place: string;
  readonly tempo: string;
  readonly mark: string;
  readonly take: string;
  readonly who: string;
  readonly note: string;
}

interface LogViewProps {
  readonly programme: readonly ProgrammePiece[] | null;
  readonly dates: readonly DateResponse[];
}

/** Every run of every piece, newest first, found by any word; a report of them to keep. */
export function LogView({ programme, dates }: LogViewProps) {
  const [sought, setSought] = useState('');
  const lines = useMemo(() => linesOf(programme ?? []), [programme]);
  const seams = useMemo(() => (programme ?? []).flatMap((one) => one.seams), [programme]);
  const runs = useMemo(() => (programme ?? []).flatMap((one) => one.runs), [programme]);
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const found = lines.filter((line) => {
    const text = Object.values(line).join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const minutes = Math.round(
    dates.flatMap(({ done }) => done).reduce((sum, { seconds }) => sum + seconds, 0) / 60,
  );
  return (
    <section aria-label="Log" className="min-h-0 flex-1 overflow-y-auto px-4 py-3 @3xl:px-8">
      <LogHead sought={sought} onSought={setSought} found={found} all={lines.length} minutes={minutes} />
      {words.length === 0 && runs.length > 0 && (
        <Suspense>
          <LogCharts seams={seams} runs={runs} />
        </Suspense>
      )}
      {found.length === 0 ? (
        <p className="mt-6 text-lg text-quiet">
          {lines.length === 0 ? 'Nothing was run yet.' : 'No run has all of these words.'}
        </p>
      ) : (
        <table className="mt-4 w-full text-left @max-3xl:block" aria-label="Runs, newest first">
          <thead className="text-sm text-quiet @max-3xl:hidden">
            <tr>
              {['day', 'piece', 'where', 'tempo', 'mark', 'played along', 'who', 'note'].map((name) => (
                <th key={name} scope="col" className="pr-3 font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="@max-3xl:block">
            {found.slice(0, MOST_SHOWN).map((line) => (
              <tr
                key={line.id}
                className="border-t border-faint align-baseline @max-3xl:flex @max-3xl:flex-wrap @max-3xl:items-baseline @max-3xl:py-1"
              >
                <td className="numeral py-1 pr-3 whitespace-nowrap">
                  {line.day} <span className="text-quiet">{line.time}</span>
                </td>
                <td className="pr-3">{line.piece}</td>
                <td className="pr-3 whitespace-nowrap">{line.place}</td>
                <td className="numeral pr-3 whitespace-nowrap">{line.tempo}</td>
                <td className={`pr-3 ${line.mark === 'good' ? 'font-semibold text-carry-text' : ''}`}>
                  {line.mark}
                </td>
                <td className="pr-3">{line.take}</td>
                <td className="pr-3">{line.who}</td>
                <td className="pr-3">{line.note}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

interface LogHeadProps {
  readonly sought: string;
  readonly onSought: (text: string) => void;
  readonly found: readonly LogLine[];
  readonly all: number;
  /** Of plans that were done. */
  readonly minutes: number;
}

/** Finds runs by their words, and keeps what is found as a file. */
function LogHead({ sought, onSought, found, all, minutes }: LogHeadProps) {
  const { make } = useSheetTask();
  return (
    <div className="flex flex-wrap items-end gap-4">
      <div className="w-72 max-w-full">
        <TextField
          labelStands="above"
          label="Find: a piece, bar, section, mark or word"
          value={sought}
          onText={onSought}
        />
      </div>
      <p className="pb-2 text-quiet">
        {found.length} of {all} runs{minutes > 0 && ` · ${minutes} minutes of plans done`}
      </p>
      <span className="ml-auto flex gap-3">
        <Button onClick={() => download([csvOf(found)], 'rehearsal-log.csv', 'text/csv')}>CSV</Button>
        <Button onClick={() => download([markdownOf(found)], 'rehearsal-log.md', 'text/markdown')}>
          Markdown
        </Button>
        <Button onClick={() => void make({ kind: 'pages', document: reportOf(found, sought) }, savePdf)}>
          PDF
        </Button>
      </span>
    </div>
  );
}

function linesOf(programme: readonly ProgrammePiece[]): readonly LogLine[] {
  const all = programme.flatMap(({ toPlan, runs }) => runs.map((run) => ({ title: toPlan.title, run })));
  return all
    .sort((a, b) => (a.run.startedAt < b.run.startedAt ? 1 : -1))
    .map(({ title, run }) => lineOf(title, run));
}

function lineOf(piece: string, run: PlacedRun): LogLine {
  const moment = new Date(run.startedAt);
  const bar = run.label ?? String(run.barIndex + 1);
  const [tally] = run.take ? seamTallies(run.take) : [];
  return {
    id: run.id,
    day: moment.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }),
    time: moment.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }),
    piece,
    place: run.placeKind === 'seam' ? `into bar ${bar}` : `${run.bars} bars from ${bar}`,
    tempo: `${Math.round(run.percent)} %${run.bpm === null ? '' : ` · ${Math.round(run.bpm)}`}`,
    mark: run.mark ?? '–',
    take: tally ? verdictWords(tally.shown) : '',
    who: run.sections.join(', ') || 'all',
    note: run.note,
  };
}

const COLUMNS = ['day', 'time', 'piece', 'place', 'tempo', 'mark', 'take', 'who', 'note'] as const;

function csvOf(lines: readonly LogLine[]): string {
  // A cell that begins like a formula is kept from becoming one.
  const cell = (text: string) => `"${(/^[=+\-@\t\r]/.test(text) ? `'${text}` : text).replaceAll('"', '""')}"`;
  return [COLUMNS.join(','), ...lines.map((line) => COLUMNS.map((name) => cell(line[name])).join(','))].join(
    '\r\n',
  );
}

/** The lines of a day, what each is about and what is said of it. */
function byDay(lines: readonly LogLine[]) {
  const days = [...new Set(lines.map(({ day }) => day))];
  return days.map((day) => ({
    heading: day,
    lines: lines
      .filter((line) => line.day === day)
      .map(({ piece, place, tempo, mark, take, who, note }) => ({
        piece,
        place,
        says: [tempo, mark, take, who !== 'all' && who, note].filter(Boolean).join(' · '),
      })),
  }));
}

function markdownOf(lines: readonly LogLine[]): string {
  return [
    '# Rehearsal log',
    ...byDay(lines).flatMap(({ heading, lines: ofDay }) => [
      '',
      `## ${heading}`,
      '',
      ...ofDay.map(({ piece, place, says }) => `- **${piece}**, ${place}: ${says}`),
    ]),
    '',
  ].join('\n');
}

function reportOf(lines: readonly LogLine[], sought: string): SheetDocument {
  const groups = byDay(lines).map(({ heading, lines: ofDay }) => ({
    heading,
    lines: ofDay.map(({ piece, place, says }) => ({ about: `${piece}, ${place}`, says })),
  }));
  const facts = `${lines.length} runs${sought.trim() === '' ? '' : ` with "${sought.trim()}"`}`;
  const settings = { ...PLAIN_SHEET, paper: keptSheetSettings.get().paper };
  return reportDocument({ title: 'Rehearsal log', facts, groups }, settings);
}

function savePdf(bytes: Uint8Array<ArrayBuffer>): void {
  download([bytes], 'rehearsal-log.pdf', 'application/pdf');
}
