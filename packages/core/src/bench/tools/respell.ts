import { divide, equal, fraction, multiply, toNumber, type Fraction } from '../../fraction/fraction.ts';
import { formatFraction } from '../../fraction/text.ts';
import { compilePiece } from '../../compile/compile.ts';
import type { BarSpan, Edit } from '../../edit/edit.ts';
import { meterLength, meterUnit, MAX_METER_COUNT, MAX_METER_UNIT, type Meter } from '../../meter/meter.ts';
import { meterBeat } from '../../meter/meterBeat.ts';
import { formatMeter, isSameMeter } from '../../meter/text.ts';
import { ofOneShape, type Bar, type Piece } from '../../piece/piece.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import { pulseOf } from '../../pulse/pulse.ts';
import { bpmOf, statedRate, type TempoMark } from '../../tempo/tempoMark.ts';
import { NOTE_BASES, noteValueLength, type NoteValue } from '../../value/noteValue.ts';
import { noteWords } from '../../value/text.ts';
import {
  decimal,
  refusalOf,
  smallPiece,
  statedAt,
  typedMeter,
  typedTempo,
  type BenchAnswer,
  type BenchTool,
  type Typed,
} from '../tool.ts';

/** The same bar in other notes: how it is written, at what tempo it lasts as long, and what a player sees change. */
export interface Respelling {
  readonly meter: Meter;
  /** What every written length is multiplied by. */
  readonly factor: Fraction;
  readonly beat: NoteValue;
  readonly bpm: Fraction;
  readonly beats: number;
  /** Triplets have to be written where the old bar had plain notes. */
  readonly inTriplets: boolean;
  readonly why: string;
}

const UNITS = [2, 4, 8, 16, 32] as const;
/** Nobody writes whole bars four times longer or shorter. */
const MOST_FACTOR = 2;

/** Every other way to write a bar so that its small notes stay plain notes and its time stays what it is, the simplest first. */
export function respellings(meter: Meter, rate: Fraction): readonly Respelling[] {
  const small = divide(meterLength(meter), meterUnit(meter));
  const plain = UNITS.flatMap((note) =>
    UNITS.flatMap((unit) => {
      const count = (small.n * unit) / (small.d * note);
      return Number.isInteger(count) && count > 0 && count <= 24 ? [{ note, unit, count }] : [];
    }),
  ).map(({ unit, count }) =>
    spelled({ parts: [{ groups: [count], unit, prints: 'total' }] }, meter, rate, false),
  );
  const others = [...plain, ...simpleForCompound(meter, rate)].filter(
    ({ meter: other, factor }) =>
      !isSameMeter(other, meter) && Math.abs(Math.log2(toNumber(factor))) <= Math.log2(MOST_FACTOR) + 1e-9,
  );
  const seen = new Set<string>();
  return others
    .sort((a, b) => costOf(a) - costOf(b))
    .filter((one) => {
      const name = formatMeter(one.meter);
      return seen.has(name) ? false : seen.add(name);
    });
}

/** 6/8 as 2/4 in triplets. */
function simpleForCompound(meter: Meter, rate: Fraction): readonly Respelling[] {
  const beats = pulseOf({ meter, tempoMarks: [] });
  const beat = beats[0];
  const isCompound =
    beat && beat.parts === 3 && beats.every(({ lengthWholes }) => equal(lengthWholes, beat.lengthWholes));
  if (!isCompound) return [];
  const unit = (beat.lengthWholes.d * 3) / (2 * beat.lengthWholes.n);
  if (!UNITS.includes(unit as (typeof UNITS)[number])) return [];
  return [spelled({ parts: [{ groups: [beats.length], unit, prints: 'total' }] }, meter, rate, true)];
}

function spelled(other: Meter, meter: Meter, rate: Fraction, inTriplets: boolean): Respelling {
  const factor = divide(meterLength(other), meterLength(meter));
  const beat = meterBeat(other);
  const beats = pulseOf({ meter: other, tempoMarks: [] });
  const was = pulseOf({ meter, tempoMarks: [] });
  return {
    meter: other,
    factor,
    beat,
    bpm: bpmOf(multiply(rate, factor), noteValueLength(beat)),
    beats: beats.length,
    inTriplets,
    why: whyOf(was.length, beats.length, factor, inTriplets),
  };
}

function whyOf(was: number, is: number, factor: Fraction, inTriplets: boolean): string {
  if (inTriplets) return 'the beat is a plain note; its small notes become triplets';
  if (was !== is)
    return `${is} beats where there were ${was}: the same notes grouped anew, a hemiola against the old bar`;
  if (equal(factor, fraction(1))) return 'the same beats in the same notes';
  return toNumber(factor) > 1
    ? 'the same beats in longer notes: fewer beams, slower to look at'
    : 'the same beats in shorter notes: more beams, quicker to look at';
}

function costOf({ meter, factor, beats, inTriplets }: Respelling): number {
  const unit = meter.parts[0]?.unit ?? 4;
  const ofUnit = { 4: 0, 8: 0.3, 2: 0.6, 16: 1.2 }[unit as 2 | 4 | 8 | 16] ?? 2.5;
  return Math.abs(Math.log2(toNumber(factor))) + ofUnit + Math.abs(beats - 3) * 0.15 + (inTriplets ? 0.9 : 0);
}

function work(typed: Typed): Result<BenchAnswer> {
  const [meter, tempo] = [typedMeter(typed), typedTempo(typed)];
  const refusal = refusalOf(meter, tempo);
  if (refusal) return refusal;
  if (!meter.ok || !tempo.ok) return refused('Nothing to work on');
  const rate = statedRate(tempo.value);
  const found = respellings(meter.value, rate);
  const seconds = (60 * toNumber(meterLength(meter.value))) / toNumber(rate);
  const first = found[0];
  if (!first) return refused(`${formatMeter(meter.value)} has no other plain spelling`, { field: 'meter' });
  const doubled = [fraction(2), fraction(1, 2)];
  return accepted({
    says: [
      `${formatMeter(first.meter)} at ${noteWords(first.beat)} = ${formatFraction(first.bpm)} lasts as long: ${decimal(1000 * seconds, 2)} ms a bar`,
      `It reads as ${first.why}`,
    ],
    table: {
      head: ['meter', 'tempo', 'beats', 'a player sees'],
      rows: found.map((one) => [
        formatMeter(one.meter),
        `${noteWords(one.beat)} = ${formatFraction(one.bpm)}`,
        String(one.beats),
        one.why,
      ]),
    },
    heard: { piece: turnAndTurn(meter.value, first, rate) },
    sends: [
      ...found
        .filter(({ factor, inTriplets }) => !inTriplets && equal(factor, fraction(1)))
        .slice(0, 2)
        .map(({ meter: other }) => ({
          label: `${formatMeter(other)} in the selected bars`,
          editFor: (_: Piece, span: BarSpan) => accepted<Edit>({ kind: 'setMeter', ...span, meter: other }),
        })),
      ...doubled.map((factor) => ({
        label:
          factor.d === 1 ? 'Selected bars in notes twice as long' : 'Selected bars in notes half as long',
        editFor: (piece: Piece, span: BarSpan) => respelled(piece, span, factor),
      })),
    ],
  });
}

/** The bar as it was and as it is now, one after the other: nobody should hear which is which but by the beats. */
function turnAndTurn(meter: Meter, other: Respelling, rate: Fraction): Piece {
  const piece = smallPiece('Spelled anew', rate, [{ meter }, { meter: other.meter }]);
  const [first, second] = piece.bars as [Bar, Bar];
  const stated = statedAt(multiply(rate, other.factor), other.meter);
  return {
    ...piece,
    bars: [first, ofOneShape({ ...second, tempoMarks: [{ atWholes: fraction(0), stated }] })],
  };
}

/** Bars in notes twice or half as long, at the tempo that keeps the time of every bar. Refused where the time would not stay. */
export function respelled(piece: Piece, { from, count }: BarSpan, factor: Fraction): Result<Edit> {
  try {
    const bars = piece.bars.map((bar, index) => {
      if (index >= from && index < from + count) return longerBar(bar, factor, index === from);
      return index === from + count ? leavingBar(bar, factor) : bar;
    });
    const first = piece.bars[from];
    const led = first ? ledIn(bars, from, meterBeat(first.meter), factor) : bars;
    const other: Piece = { ...piece, bars: led };
    if (!lastsAsLong(piece, other))
      return refused('A ramp, a return or a jump leads into or out of these bars: take them in as well');
    return accepted({
      kind: 'replacePiece',
      piece: other,
      how: `Notes ${factor.d === 1 ? 'twice' : 'half'} as long`,
    });
  } catch (error) {
    if (!(error instanceof UnwritableError)) throw error;
    return refused(error.message);
  }
}

class UnwritableError extends Error {}

function longer(value: NoteValue, factor: Fraction): NoteValue {
  const index = NOTE_BASES.indexOf(value.base) - Math.log2(toNumber(factor));
  const base = NOTE_BASES[index];
  if (!base)
    throw new UnwritableError(
      `No note is ${factor.d === 1 ? 'twice' : 'half'} as long as ${noteWords(value)}`,
    );
  return { ...value, base };
}

function longerMeter({ parts }: Meter, factor: Fraction): Meter {
  return {
    parts: parts.map((part) => {
      const scaled = (unit: number) => {
        const next = (unit * factor.d) / factor.n;
        if (Number.isInteger(next) && next <= MAX_METER_UNIT && part.groups.length <= MAX_METER_COUNT)
          return next;
        throw new UnwritableError(
          `A meter over ${unit} cannot be written in notes ${factor.d === 1 ? 'twice' : 'half'} as long`,
        );
      };
      return {
        ...part,
        unit: scaled(part.unit),
        ...(part.printedUnit !== undefined && { printedUnit: scaled(part.printedUnit) }),
      };
    }),
  };
}

/** `isFirst`: the note before an equivalence at its barline is still in the old notation. */
function longerMark(mark: TempoMark, factor: Fraction, isFirst: boolean): TempoMark {
  const atStart = isFirst && mark.atWholes.n === 0;
  const { stated, equivalence, ramp } = mark;
  const target = ramp?.target;
  return {
    ...mark,
    atWholes: multiply(mark.atWholes, factor),
    ...(stated && { stated: { ...stated, unit: longer(stated.unit, factor) } }),
    ...(equivalence && {
      equivalence: {
        before: atStart ? equivalence.before : longer(equivalence.before, factor),
        after: longer(equivalence.after, factor),
      },
    }),
    ...(ramp &&
      target?.kind === 'tempo' && {
        ramp: {
          ...ramp,
          target: { ...target, tempo: { ...target.tempo, unit: longer(target.tempo.unit, factor) } },
        },
      }),
  };
}

function longerBar(bar: Bar, factor: Fraction, isFirst: boolean): Bar {
  const { partial, holds, pulse, rhythm } = bar;
  return ofOneShape({
    ...bar,
    meter: longerMeter(bar.meter, factor),
    tempoMarks: bar.tempoMarks.map((mark) => longerMark(mark, factor, isFirst)),
    ...(partial && { partial: { ...partial, lengthWholes: multiply(partial.lengthWholes, factor) } }),
    ...(holds && {
      holds: holds.map((hold) => ({
        ...hold,
        atWholes: multiply(hold.atWholes, factor),
        ...(hold.value && { value: longer(hold.value, factor) }),
      })),
    }),
    ...(pulse?.kind === 'values' && {
      pulse: { ...pulse, values: pulse.values.map((value) => longer(value, factor)) },
    }),
    ...(rhythm && { rhythm: rhythm.map((note) => ({ ...note, value: longer(note.value, factor) })) }),
  });
}

/** Where the first bar says no tempo of its own, the old note that lasts as long as the new one is printed there. */
function ledIn(bars: readonly Bar[], from: number, beat: NoteValue, factor: Fraction): readonly Bar[] {
  return bars.map((bar, index) =>
    index === from ? withEquivalence(bar, { before: beat, after: longer(beat, factor) }) : bar,
  );
}

/** After the passage the old notation comes back. */
function leavingBar(bar: Bar, factor: Fraction): Bar {
  const beat = meterBeat(bar.meter);
  const [mark] = bar.tempoMarks;
  if (mark?.atWholes.n === 0 && mark.equivalence) {
    const equivalence = { ...mark.equivalence, before: longer(mark.equivalence.before, factor) };
    return ofOneShape({ ...bar, tempoMarks: [{ ...mark, equivalence }, ...bar.tempoMarks.slice(1)] });
  }
  return withEquivalence(bar, { before: longer(beat, factor), after: beat });
}

/** A bar with an equivalence at its barline, unless a tempo is stated there already. */
function withEquivalence(bar: Bar, equivalence: NonNullable<TempoMark['equivalence']>): Bar {
  const [mark] = bar.tempoMarks;
  if (mark?.atWholes.n !== 0)
    return ofOneShape({ ...bar, tempoMarks: [{ atWholes: fraction(0), equivalence }, ...bar.tempoMarks] });
  if (mark.stated ?? mark.equivalence ?? mark.returns) return bar;
  return ofOneShape({ ...bar, tempoMarks: [{ ...mark, equivalence }, ...bar.tempoMarks.slice(1)] });
}

const SAME_SECONDS = 1e-9;

function lastsAsLong(piece: Piece, other: Piece): boolean {
  const [was, is] = [piece, other].map((one) => compilePiece(one).timeline.barStartSeconds);
  return (
    was !== undefined &&
    is !== undefined &&
    was.length === is.length &&
    was.every((seconds, index) => Math.abs(seconds - (is[index] ?? 0)) < SAME_SECONDS * Math.max(1, seconds))
  );
}

export const respell: BenchTool = {
  id: 'respell',
  name: 'Respell',
  says: 'The same sounding bar in other notes and meters, with the tempo that keeps its time; a passage in longer or shorter notes.',
  fields: [
    { id: 'meter', label: 'Meter', usual: '6/8', hint: '6/8, 7/8 as 2+2+3' },
    { id: 'tempo', label: 'Tempo', usual: 'q. = 60', hint: 'q. = 60' },
  ],
  work,
};
