import Papa from 'papaparse';
import type { DateResponse } from '@anchorbeat/contract';
import { howMany, seamTallies, verdictWords, type LoggedCorrection } from '@anchorbeat/core';
import { PLAIN_SHEET, reportDocument, type SheetDocument, type SheetSettings } from '@anchorbeat/sheets';
import type { PlacedRun } from '../seams/placedRun.ts';
import { clockText, dayOfYearText } from '../ui/dayText.ts';
import { hasWords } from '../ui/hasWords.ts';
import { momentOf } from './season.ts';
import type { ProgrammePiece } from './useProgramme.ts';

/** A line of the log, in words. */
export interface LogLine {
  readonly id: string;
  readonly kind: 'run' | 'correction' | 'plan';
  readonly atMs: number;
  readonly day: string;
  /** Of the day; empty where only the day is known. */
  readonly time: string;
  readonly piece: string;
  readonly place: string;
  readonly tempo: string;
  readonly mark: string;
  readonly take: string;
  readonly who: string;
  readonly note: string;
}

/** What the log is shown of. */
export interface LogChoice {
  /** Words that all have to be in a line. */
  readonly sought: string;
  readonly pieceId: string | null;
  readonly section: string | null;
}

type LoggedPiece = Pick<ProgrammePiece, 'toPlan' | 'runs' | 'seams' | 'corrections'>;

/** What is chosen of the log: of one section also what everybody ran, and what it found in its notes. */
function chosenOf(
  programme: readonly LoggedPiece[],
  { pieceId, section }: LogChoice,
): readonly LoggedPiece[] {
  const isTheirs = ({ sections }: PlacedRun) =>
    section === null || sections.length === 0 || sections.includes(section);
  return programme
    .filter(({ toPlan }) => pieceId === null || toPlan.pieceId === pieceId)
    .map((piece) => ({
      ...piece,
      runs: piece.runs.filter(isTheirs),
      corrections: piece.corrections.filter(({ spottedBy }) => section === null || spottedBy === section),
    }));
}

/** Seams as these runs alone tell of them. */
function seamsWith(seams: LoggedPiece['seams'], runs: ReadonlySet<unknown>): LoggedPiece['seams'] {
  return seams.map((seam) => ({ ...seam, runs: seam.runs.filter((run) => runs.has(run)) }));
}

/** What the log says of what was chosen. */
export interface LogExtract {
  /** Every run, correction of a piece and item of a plan that was done, newest first. */
  readonly lines: readonly LogLine[];
  /** The runs among them, and the seams as they tell of them: where words were sought, only those that were run. */
  readonly runs: readonly PlacedRun[];
  readonly seams: LoggedPiece['seams'];
}

export function logExtract(
  programme: readonly LoggedPiece[],
  dates: readonly DateResponse[],
  choice: LogChoice,
): LogExtract {
  const chosen = chosenOf(programme, choice);
  const all = [
    ...chosen.flatMap(({ toPlan, runs, corrections }) => [
      ...runs.map((run) => runLine(toPlan.title, run)),
      ...corrections.map((correction, index) => correctionLine(toPlan, correction, index)),
    ]),
    ...dates.flatMap((date) => planLines(date, choice)),
  ].sort((a, b) => b.atMs - a.atMs);
  const lines = all.filter((line) => hasWords(COLUMNS.map((name) => line[name]).join(' '), choice.sought));
  const shown = new Set(lines.map(({ id }) => id));
  const runs = chosen.flatMap((piece) => piece.runs).filter(({ id }) => shown.has(id));
  const seams = chosen.flatMap((piece) => seamsWith(piece.seams, new Set(runs)));
  const isSought = choice.sought.trim() !== '';
  return { lines, runs, seams: isSought ? seams.filter((seam) => seam.runs.length > 0) : seams };
}

const NOTHING_SAID = { time: '', tempo: '', mark: '', take: '', who: '', note: '' };

function runLine(piece: string, run: PlacedRun): LogLine {
  const moment = new Date(run.startedAt);
  const [tally] = run.take ? seamTallies(run.take) : [];
  return {
    id: run.id,
    kind: 'run',
    atMs: moment.getTime(),
    day: dayOfYearText(moment),
    time: clockText(moment),
    piece,
    place: placeWords(run),
    tempo: `${Math.round(run.percent)} %${run.bpm === null ? '' : ` · ${Math.round(run.bpm)}`}`,
    mark: run.mark ?? '–',
    take: tally ? verdictWords(tally.shown) : '',
    who: run.sections.join(', ') || 'all',
    note: run.note,
  };
}

/** By the number that its bar has now; by that which it had where it was taken out. */
function placeWords({ place, label, barIndex }: PlacedRun): string {
  const isThere = Number.isFinite(place.barIndex);
  const bar = (isThere ? place.label : label) ?? String((isThere ? place.barIndex : barIndex) + 1);
  const words = place.kind === 'seam' ? `into bar ${bar}` : `${howMany(place.bars, 'bar')} from ${bar}`;
  return isThere ? words : `${words}, taken out since`;
}

/** What was put right in the notes: on which day is all that is known. */
function correctionLine(
  { pieceId, title }: LoggedPiece['toPlan'],
  { place, was, is, why, spottedBy, on }: LoggedCorrection,
  index: number,
): LogLine {
  const moment = new Date(`${on}T00:00`);
  const isDay = !Number.isNaN(moment.getTime());
  const says = `${is || 'nothing'}, was ${was || 'nothing'}`;
  return {
    ...NOTHING_SAID,
    id: `${pieceId} correction ${index}`,
    kind: 'correction',
    // A day that no calendar has stands last, as it was written.
    atMs: isDay ? moment.getTime() : 0,
    day: isDay ? dayOfYearText(moment) : on,
    piece: title,
    place,
    note: [says, why].filter(Boolean).join(' · '),
    who: spottedBy ?? '',
  };
}

/** What was done of a date's plan against what was planned, the last item first. */
function planLines(date: DateResponse, { pieceId, section }: LogChoice): readonly LogLine[] {
  const atMs = momentOf(date);
  if (section !== null && date.absent.includes(section)) return [];
  return date.done
    .filter(({ key }) => pieceId === null || key.startsWith(`${pieceId}:`))
    .map(({ key, title, planned, seconds }, index): LogLine => {
      const minutes = Math.round(seconds / 60);
      return {
        ...NOTHING_SAID,
        id: `${date.id} ${key}`,
        kind: 'plan',
        atMs: atMs + index,
        day: dayOfYearText(new Date(date.at)),
        time: date.at.slice(11),
        piece: 'Plan',
        place: title,
        note: `${minutes} min of ${planned} planned${date.absent.length > 0 ? `, without ${date.absent.join(', ')}` : ''}`,
      };
    })
    .reverse();
}

const COLUMNS = ['kind', 'day', 'time', 'piece', 'place', 'tempo', 'mark', 'take', 'who', 'note'] as const;

/** As a table for elsewhere. A cell that begins like a formula is kept from becoming one. */
export function csvOf(lines: readonly LogLine[]): string {
  const rows = lines.map((line) => COLUMNS.map((name) => line[name]));
  return Papa.unparse([[...COLUMNS], ...rows], { escapeFormulae: /^[=+\-@\t\r]/ });
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

export function markdownOf(lines: readonly LogLine[]): string {
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

export function reportOf(
  lines: readonly LogLine[],
  sought: string,
  paper: SheetSettings['paper'],
): SheetDocument {
  const groups = byDay(lines).map(({ heading, lines: ofDay }) => ({
    heading,
    lines: ofDay.map(({ piece, place, says }) => ({ about: `${piece}, ${place}`, says })),
  }));
  const facts = `${howMany(lines.length, 'line')}${sought.trim() === '' ? '' : ` with "${sought.trim()}"`}`;
  return reportDocument({ title: 'Rehearsal log', facts, groups }, { ...PLAIN_SHEET, paper });
}
