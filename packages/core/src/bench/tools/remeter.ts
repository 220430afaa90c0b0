import {
  add,
  compare,
  divide,
  fraction,
  subtract,
  toNumber,
  type Fraction,
} from '../../fraction/fraction.ts';
import { applyEdit } from '../../edit/applyEdit.ts';
import type { BarSpan, Edit } from '../../edit/edit.ts';
import { meterLength, type Meter } from '../../meter/meter.ts';
import { formatMeter } from '../../meter/text.ts';
import { ofOneShape, type Piece } from '../../piece/piece.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import { pulseOf } from '../../pulse/pulse.ts';
import { placedNotes } from '../../rhythm/fill.ts';
import type { Rhythm, RhythmNote } from '../../rhythm/rhythm.ts';
import { bpmOf, secondsOf, statedRate } from '../../tempo/tempoMark.ts';
import { noteValueLength, singleNoteMaybe } from '../../value/noteValue.ts';
import { noteWords } from '../../value/text.ts';
import {
  decimal,
  lasting,
  refusalOf,
  smallPiece,
  typedCount,
  typedMeter,
  typedTempo,
  type BenchAnswer,
  type BenchTool,
  type Typed,
} from '../tool.ts';

export const REMETER_WAYS = [
  'the end goes or is held',
  'the last beat goes or comes again',
  'squeezed or stretched',
] as const;
type RemeterWay = (typeof REMETER_WAYS)[number];

/**
 * The notes of a bar in another meter. Held: notes beyond the end go, the last is longer. Again: the notes of the last beats
 * come once more. Stretched: every note is as much longer or shorter as the bar is. Null where no notes write it.
 */
export function remeteredMaybe(rhythm: Rhythm, from: Meter, to: Meter, way: RemeterWay): Rhythm | null {
  const [was, is] = [meterLength(from), meterLength(to)];
  if (way === 'squeezed or stretched') {
    const factor = divide(is, was);
    const notes = rhythm.map((note) => {
      const length = noteValueLength(note.value);
      const value = singleNoteMaybe(fraction(length.n * factor.n, length.d * factor.d));
      return value && { ...note, value };
    });
    return notes.some((note) => note === null) ? null : notes.flatMap((note) => (note ? [note] : []));
  }
  if (compare(is, was) <= 0) return cutAt(rhythm, is);
  const missing = subtract(is, was);
  if (way === 'the end goes or is held') return lengthened(rhythm, missing);
  const again = cutFrom(rhythm, subtract(was, missing));
  return again && [...rhythm, ...again];
}

function cutAt(rhythm: Rhythm, end: Fraction): Rhythm | null {
  const kept: RhythmNote[] = [];
  for (const { note, atWholes } of placedNotes(rhythm)) {
    if (compare(atWholes, end) >= 0) break;
    const noteEnd = add(atWholes, noteValueLength(note.value));
    if (compare(noteEnd, end) <= 0) kept.push(note);
    else {
      const value = singleNoteMaybe(subtract(end, atWholes));
      if (!value) return null;
      kept.push({ value, ...(note.isRest && { isRest: true }) });
    }
  }
  const last = kept.pop();
  return last ? [...kept, { value: last.value, ...(last.isRest && { isRest: true }) }] : kept;
}

function cutFrom(rhythm: Rhythm, start: Fraction): Rhythm | null {
  const placed = placedNotes(rhythm).filter(({ atWholes }) => compare(atWholes, start) >= 0);
  return placed[0] && compare(placed[0].atWholes, start) === 0 ? placed.map(({ note }) => note) : null;
}

function lengthened(rhythm: Rhythm, by: Fraction): Rhythm | null {
  const last = rhythm.at(-1);
  const value = last && singleNoteMaybe(add(noteValueLength(last.value), by));
  return last && value ? [...rhythm.slice(0, -1), { ...last, value }] : null;
}

function work(typed: Typed): Result<BenchAnswer> {
  const [from, to, tempo] = [typedMeter(typed, 'from'), typedMeter(typed, 'to'), typedTempo(typed)];
  const bars = typedCount(typed, 'bars', 1, 999);
  const way = REMETER_WAYS.find(
    (known) => known.startsWith((typed['way'] ?? '').trim()) && (typed['way'] ?? '').trim() !== '',
  );
  const refusal = refusalOf(from, to, tempo, bars);
  if (refusal) return refusal;
  if (!way) return refused(`The way is one of: ${REMETER_WAYS.join(', ')}`, { field: 'way' });
  if (!from.ok || !to.ok || !tempo.ok || !bars.ok) return refused('Nothing to work on');
  const rate = statedRate(tempo.value);
  const [was, is] = [meterLength(from.value), meterLength(to.value)];
  const seconds = (length: Fraction) => bars.value * secondsOf(length, rate);
  const beat = noteWords(tempo.value.unit);
  const keeps = bpmOf(
    fraction(rate.n * is.n * was.d, rate.d * is.d * was.n),
    noteValueLength(tempo.value.unit),
  );
  return accepted({
    says: [
      beatsWords(from.value, to.value, way),
      `At ${beat} = ${decimal(toNumber(tempo.value.bpm), 2)} ${lasting(bars.value)} ${decimal(seconds(is), 3)} s, before ${decimal(seconds(was), 3)} s`,
      `To last as long as before: ${beat} = ${decimal(toNumber(keeps), 3)}`,
      'Swung eighths are not three: the second falls at two thirds of the beat, and only if the swing is 2 to 1; three even notes have one at a third as well',
    ],
    table: {
      head: ['', 'swung eighths', 'three even notes'],
      rows: swungBesideThree(60_000 / toNumber(tempo.value.bpm)),
    },
    heard: { piece: smallPiece('Another meter', rate, [{ meter: from.value }, { meter: to.value }]) },
    sends: [
      {
        label: `Selected bars of ${formatMeter(from.value)} in ${formatMeter(to.value)}`,
        editFor: (piece, span) => remeteredBars(piece, span, { from: from.value, to: to.value, way }),
      },
    ],
  });
}

function swungBesideThree(beatMs: number): ReadonlyArray<readonly string[]> {
  return [
    ['first', '0 ms', '0 ms'],
    ['second', `${decimal((2 * beatMs) / 3, 1)} ms`, `${decimal(beatMs / 3, 1)} ms`],
    ['third', '', `${decimal((2 * beatMs) / 3, 1)} ms`],
  ];
}

function beatsWords(from: Meter, to: Meter, way: RemeterWay): string {
  const [was, is] = [from, to].map((meter) => pulseOf({ meter, tempoMarks: [] }).length) as [number, number];
  const turn = `${formatMeter(from)} to ${formatMeter(to)}`;
  const list = (a: number, b: number) =>
    Array.from({ length: b - a }, (_, index) => a + index + 1).join(', ');
  if (way === 'squeezed or stretched') return `${turn}: all ${was} beats stay, in the time of ${is}`;
  if (is < was) return `${turn}: beat ${list(is, was)} goes`;
  if (is === was) return `${turn}: as many beats, of another length`;
  return way === 'the end goes or is held'
    ? `${turn}: the last note is held over beat ${list(was, is)}`
    : `${turn}: beat ${list(Math.max(0, 2 * was - is), was)} comes again as ${list(was, is)}`;
}

interface Remetering {
  readonly from: Meter;
  readonly to: Meter;
  readonly way: RemeterWay;
}

function remeteredBars(piece: Piece, span: BarSpan, { from, to, way }: Remetering): Result<Edit> {
  const bars = [...piece.bars];
  let done = 0;
  for (let index = span.from; index < span.from + span.count; index++) {
    const bar = bars[index];
    if (!bar || formatMeter(bar.meter) !== formatMeter(from)) continue;
    const set = applyEdit({ ...piece, bars }, { kind: 'setMeter', from: index, count: 1, meter: to });
    if (!set.ok) return set;
    const changed = set.value.piece.bars[index];
    if (!changed) continue;
    const rhythm = bar.rhythm && remeteredMaybe(bar.rhythm, from, to, way);
    bars[index] = ofOneShape({ ...changed, rhythm: rhythm ?? undefined });
    done++;
  }
  if (done === 0) return refused(`None of the selected bars is in ${formatMeter(from)}`);
  return accepted({
    kind: 'replacePiece',
    piece: { ...piece, bars },
    how: `${formatMeter(from)} in ${formatMeter(to)}`,
  });
}

export const remeter: BenchTool = {
  id: 'remeter',
  name: 'Re-meter',
  says: 'A passage from three to four and back: which beats go, are held or come again, how long it becomes, which tempo keeps its length.',
  fields: [
    { id: 'from', label: 'From', usual: '4/4', hint: '4/4' },
    { id: 'to', label: 'to', usual: '3/4', hint: '3/4' },
    {
      id: 'way',
      label: 'Way',
      usual: REMETER_WAYS[0],
      hint: 'what becomes of the notes',
      choices: REMETER_WAYS,
    },
    { id: 'bars', label: 'Bars', usual: '16', hint: '1 to 999' },
    { id: 'tempo', label: 'Tempo', usual: 'q = 96', hint: 'q = 96' },
  ],
  work,
};
