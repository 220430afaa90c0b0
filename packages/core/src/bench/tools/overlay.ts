import { add, fraction, gcd, multiply, toNumber, type Fraction } from '../../fraction/fraction.ts';
import { formatFraction } from '../../fraction/text.ts';
import { meterLength, type Meter } from '../../meter/meter.ts';
import { formatMeter } from '../../meter/text.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import { pulseOf } from '../../pulse/pulse.ts';
import type { RhythmNote } from '../../rhythm/rhythm.ts';
import { secondsOf, statedRate } from '../../tempo/tempoMark.ts';
import { noteValueLength, noteValueOfLengthMaybe, singleNoteMaybe } from '../../value/noteValue.ts';
import { notesWords, parseNoteValue } from '../../value/text.ts';
import { landsAfterBars } from '../grid.ts';
import {
  decimal,
  refusalOf,
  smallPiece,
  typedCount,
  typedMeter,
  typedTempo,
  type BenchAnswer,
  type BenchTool,
  type HeardResult,
  type Typed,
} from '../tool.ts';
import { howMany } from '../../words/howMany.ts';

const MOST_NOTES = 64;
const MOST_BARS = 16;

/** Where notes fall from the first barline, in whole notes, and how long they are together before they begin again. */
export interface Overlay {
  readonly onsets: readonly Fraction[];
  readonly cycle: Fraction;
}

/**
 * "5" equal notes or "3+3+2" over some bars, or "every e." from the barline on for as long as the bars last. A displacement
 * moves all of them later.
 */
export function overlayOf(text: string, lengthWholes: Fraction, later: Fraction): Result<Overlay> {
  const every = /^every\s+(.+)$/i.exec(text.trim());
  const at = (onsets: readonly Fraction[], cycle: Fraction) =>
    accepted({ onsets: onsets.map((onset) => add(onset, later)), cycle });
  if (every) {
    const value = parseNoteValue(every[1] ?? '');
    if (!value.ok) return value;
    const step = noteValueLength(value.value);
    const count = Math.ceil(toNumber(lengthWholes) / toNumber(step) - 1e-9);
    if (count > MOST_NOTES)
      return refused(`More than ${MOST_NOTES} notes: take a longer one or fewer bars`, { field: 'notes' });
    return at(
      Array.from({ length: count }, (_, index) => multiply(step, fraction(index))),
      step,
    );
  }
  const groups = /^\d{1,2}$/.test(text.trim())
    ? Array.from({ length: Number(text) }, () => 1)
    : /^\d{1,2}(\s*\+\s*\d{1,2})+$/.test(text.trim())
      ? text.split('+').map(Number)
      : [];
  const total = groups.reduce((sum, group) => sum + group, 0);
  if (groups.length === 0 || groups.length > MOST_NOTES || groups.includes(0))
    return refused(`"${text.slice(0, 20)}" is nothing to lay over a bar: write 5, 3+3+2 or every e.`, {
      field: 'notes',
    });
  let before = 0;
  const onsets = groups.map((group) => {
    const onset = multiply(lengthWholes, fraction(before, total));
    before += group;
    return onset;
  });
  return at(onsets, lengthWholes);
}

/** The grids a beat is divided by in writing, the plainest first. */
const GRIDS = [1, 2, 3, 4, 6, 8] as const;
/** A finer grid must be nearer by this much, in beats. */
const FINER_COST = 0.004;

/** An onset against the beat: which one, how far after it, and the nearest place that can be written. */
export interface PlacedOnset {
  readonly atWholes: Fraction;
  /** Which beat of which bar, from 1. */
  readonly bar: number;
  readonly beat: number;
  /** How much of the beat has passed, exactly. */
  readonly share: Fraction;
  readonly nearest: { readonly part: number; readonly of: number; readonly missWholes: number };
}

export function placedOnsets(overlay: Overlay, meter: Meter): readonly PlacedOnset[] {
  const beats = pulseOf({ meter, tempoMarks: [] });
  const length = meterLength(meter);
  return overlay.onsets.map((atWholes) => {
    const inBars = toNumber(atWholes) / toNumber(length);
    const bar = Math.floor(inBars + 1e-9);
    const inside = add(atWholes, multiply(length, fraction(-bar)));
    const index = beats.findLastIndex((beat) => toNumber(beat.atWholes) <= toNumber(inside) + 1e-12);
    const beat = beats[Math.max(0, index)]!;
    const rest = add(inside, multiply(beat.atWholes, fraction(-1)));
    const share = multiply(rest, fraction(beat.lengthWholes.d, beat.lengthWholes.n));
    return {
      atWholes,
      bar: bar + 1,
      beat: index + 1,
      share,
      nearest: nearestPart(toNumber(share), toNumber(beat.lengthWholes)),
    };
  });
}

function nearestPart(share: number, beatWholes: number): PlacedOnset['nearest'] {
  const tried = GRIDS.map((of, order) => {
    const part = Math.round(share * of);
    const miss = share - part / of;
    return { part, of, missWholes: miss * beatWholes, cost: Math.abs(miss) + order * FINER_COST };
  });
  const best = tried.reduce((a, b) => (b.cost < a.cost ? b : a));
  return { part: best.part, of: best.of, missWholes: best.missWholes };
}

/** "x..x..x.": accents on the coarsest grid that holds them and the beats; null where it would be longer than a line. */
function accentPatternMaybe(
  { onsets }: Overlay,
  lengthWholes: Fraction,
  beats: readonly Fraction[],
): string | null {
  const shares = [...onsets, ...beats].map((at) => multiply(at, fraction(lengthWholes.d, lengthWholes.n)));
  const finest = shares.reduce((grid, share) => (grid / gcd(grid, share.d)) * share.d, 1);
  if (finest > MOST_ACCENT_PLACES) return null;
  const on = new Set(onsets.map((onset) => Math.round((toNumber(onset) / toNumber(lengthWholes)) * finest)));
  return Array.from({ length: finest }, (_, index) => (on.has(index) ? 'x' : '.')).join('');
}

const MOST_ACCENT_PLACES = 64;

const SYLLABLES: Readonly<Record<number, readonly string[]>> = {
  2: ['', '&'],
  3: ['', '&', 'a'],
  4: ['', 'e', '&', 'a'],
};

function spokenAt({ beat, nearest: { part, of } }: PlacedOnset, beats: number): string {
  if (part === of) return String((beat % beats) + 1);
  if (part === 0) return String(beat);
  const said = SYLLABLES[of]?.[part];
  return said ? `${beat}${said}` : `${beat} ${part}/${of}`;
}

function work(typed: Typed): Result<BenchAnswer> {
  const meter = typedMeter(typed);
  const bars = typedCount(typed, 'bars', 1, MOST_BARS);
  const tempo = typedTempo(typed);
  const refusal = refusalOf(meter, bars, tempo);
  if (refusal) return refusal;
  if (!meter.ok || !bars.ok || !tempo.ok) return refused('Nothing to work on');
  const length = multiply(meterLength(meter.value), fraction(bars.value));
  const laterText = (typed['later'] ?? '').trim();
  const moved = laterText === '' ? null : parseNoteValue(laterText);
  if (moved && !moved.ok) return moved;
  const overlay = overlayOf(typed['notes'] ?? '', length, moved ? noteValueLength(moved.value) : fraction(0));
  if (!overlay.ok) return overlay;
  const rate = statedRate(tempo.value);
  const placed = placedOnsets(overlay.value, meter.value);
  const beats = pulseOf({ meter: meter.value, tempoMarks: [] });
  const lands = landsAfterBars(overlay.value.cycle, meterLength(meter.value));
  const pattern = accentPatternMaybe(
    overlay.value,
    length,
    Array.from({ length: bars.value }, (_, bar) =>
      beats.map(({ atWholes }) => add(atWholes, multiply(meterLength(meter.value), fraction(bar)))),
    ).flat(),
  );
  const misses = placed.map(({ nearest }) =>
    Math.abs(1000 * secondsOf(fraction(1), rate) * nearest.missWholes),
  );
  const most = Math.max(...misses);
  return accepted({
    says: [
      ...tupletWords(typed['notes'] ?? '', length),
      most < 0.5
        ? 'Every note can be written as it is'
        : `On plain parts of the beat a note is up to ${decimal(most, 1)} ms off`,
      `Lands on 1 again after ${howMany(lands, 'bar')}`,
      `Spoken: ${placed.map((onset) => spokenAt(onset, beats.length)).join(' ')}`,
      ...(pattern ? [`Accents: ${pattern}`] : []),
    ],
    table: {
      head: ['note', 'ms', 'bar', 'beat', 'after it', 'nearest', 'off by ms'],
      rows: placed.map((onset, index) => [
        String(index + 1),
        decimal(1000 * secondsOf(onset.atWholes, rate), 1),
        String(onset.bar),
        String(onset.beat),
        formatFraction(onset.share),
        `${onset.nearest.part}/${onset.nearest.of}`,
        decimal(1000 * secondsOf(fraction(1), rate) * onset.nearest.missWholes, 1),
      ]),
    },
    ...heardOf(typed['notes'] ?? '', meter.value, bars.value, overlay.value, rate),
  });
}

/** "5 in the time of 4 quarters": how equal notes are written where no plain note has their length. */
function tupletWords(text: string, lengthWholes: Fraction): readonly string[] {
  const count = /^\d{1,2}$/.test(text.trim()) ? Number(text) : 0;
  if (count < 3 || noteValueOfLengthMaybe(multiply(lengthWholes, fraction(1, count)))) return [];
  for (let normal = count - 1; normal > count / 2; normal--) {
    const value = noteValueOfLengthMaybe(multiply(lengthWholes, fraction(1, normal)));
    if (value && value.dots === 0)
      return [`Written as a tuplet: ${count} in the time of ${normal} ${notesWords(value)}`];
  }
  return [];
}

/** Equal notes over one bar sound beside the pulse; others as a rhythm, where single notes can write it. */
function heardOf(
  text: string,
  meter: Meter,
  bars: number,
  { onsets }: Overlay,
  rate: Fraction,
): { readonly heard?: HeardResult } {
  const title = `${text} over ${formatMeter(meter)}`;
  const equalNotes = Number(text);
  if (bars === 1 && equalNotes >= 2 && onsets[0]?.n === 0)
    return { heard: { piece: smallPiece(title, rate, [{ meter }]), overlay: equalNotes } };
  if (bars > 1) return {};
  const length = meterLength(meter);
  const ends = [...onsets.slice(1), length];
  const notes = onsets.map((onset, index) =>
    singleNoteMaybe(add(ends[index] as Fraction, multiply(onset, fraction(-1)))),
  );
  if (onsets[0]?.n !== 0 || notes.some((note) => note === null)) return {};
  const rhythm: readonly RhythmNote[] = notes.flatMap((value) => (value ? [{ value }] : []));
  return { heard: { piece: smallPiece(title, rate, [{ meter, rhythm }]), soundsRhythm: true } };
}

export const overlay: BenchTool = {
  id: 'overlay',
  name: 'Overlay',
  says: 'So many notes, or groups, over one or more bars: where each falls against the beat, how to write it, when it lands on 1.',
  fields: [
    { id: 'notes', label: 'Lay', usual: '5', hint: '5, 3+3+2 or every e.' },
    { id: 'meter', label: 'over', usual: '4/4', hint: '7/8 as 2+2+3' },
    { id: 'bars', label: 'Bars', usual: '1', hint: '1 to 16' },
    { id: 'later', label: 'Later by', usual: '', hint: 'e, or nothing' },
    { id: 'tempo', label: 'Tempo', usual: 'q = 96', hint: 'q = 96' },
  ],
  work,
};
