import { fraction, toNumber, type Fraction } from '../fraction/fraction.ts';
import type { BarSpan, Edit } from '../edit/edit.ts';
import { parseMeter } from '../meter/text.ts';
import { ofOneShape, type Bar, type Piece } from '../piece/piece.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import { bpmOf, type StatedTempo } from '../tempo/tempoMark.ts';
import { parseStatedTempo } from '../tempo/text.ts';
import { noteValueLength, noteValue } from '../value/noteValue.ts';
import { meterBeat } from '../meter/meterBeat.ts';
import type { Meter } from '../meter/meter.ts';
import { howMany } from '../words/howMany.ts';

/** One line to type on. */
export interface BenchField {
  readonly id: string;
  readonly label: string;
  /** What stands in it at first: an example that works. */
  readonly usual: string;
  /** How it is written. */
  readonly hint: string;
  /** It is one of these. */
  readonly choices?: readonly string[];
  /** Taps of a finger are taken down as milliseconds. */
  readonly takesTaps?: true;
  /** Strokes can be found in a recording, with which of them are strong. */
  readonly takesRecording?: true;
}

/** What a tool finds out. */
export interface BenchAnswer {
  /** Sentences, the answer first. */
  readonly says: readonly string[];
  readonly table?: BenchTable;
  readonly chart?: BenchChart;
  /** To be drawn on the line and heard. */
  readonly heard?: HeardResult;
  /** What can be done with it at the selected bars, each as one edit. */
  readonly sends?: readonly BenchSend[];
}

interface BenchTable {
  readonly head: readonly string[];
  readonly rows: ReadonlyArray<readonly string[]>;
}

/** How late each of some notes is; negative is early. */
export interface BenchChart {
  readonly says: string;
  readonly names: readonly string[];
  readonly lateMs: readonly number[];
}

/** A small piece made of the result. */
export interface HeardResult {
  readonly piece: Piece;
  readonly soundsRhythm?: true;
  /** So many equal notes over every bar. */
  readonly overlay?: number;
  /** As it was tapped: each note in milliseconds, and whether it is a strong one. */
  readonly tapped?: readonly TappedNote[];
}

/** One note that was tapped, or typed as a time. */
export interface TappedNote {
  readonly ms: number;
  readonly isStrong: boolean;
}

export interface BenchSend {
  readonly label: string;
  readonly editFor: (piece: Piece, span: BarSpan) => Result<Edit>;
}

/** A calculator: one file, listed once. `work` is pure and takes what was typed, by the ids of its fields. */
export interface BenchTool {
  readonly id: string;
  readonly name: string;
  readonly says: string;
  readonly fields: readonly BenchField[];
  readonly work: (typed: Typed) => Result<BenchAnswer>;
}

export type Typed = Readonly<Record<string, string>>;

/** Reads "q = 80" or a bare number of quarters. */
export function typedTempo(typed: Typed, id = 'tempo'): Result<StatedTempo> {
  return parseStatedTempo(typed[id] ?? '', noteValue('quarter'));
}

export function typedMeter(typed: Typed, id = 'meter'): Result<Meter> {
  return parseMeter(typed[id] ?? '');
}

/** The notes a meter may count, by their figures. */
export const UNIT_CHOICES = ['2', '4', '8', '16', '32'] as const;

/** A whole number within limits. */
export function typedCount(typed: Typed, id: string, least: number, most: number): Result<number> {
  const text = (typed[id] ?? '').trim();
  const value = Number(text);
  if (text !== '' && Number.isInteger(value) && value >= least && value <= most) return accepted(value);
  return refused(`"${text.slice(0, 20)}" is no whole number from ${least} to ${most}`, { field: id });
}

/** Counts above zero between plus signs: "3+3+2". */
export function typedGroups(typed: Typed, id: string): Result<readonly number[]> {
  const text = (typed[id] ?? '').trim();
  const groups = text.split('+').map(Number);
  if (/^\d{1,2}(\s*\+\s*\d{1,2})*$/.test(text) && groups.every((group) => group > 0)) return accepted(groups);
  return refused(`"${text.slice(0, 20)}" is no grouping: write 3+3+2`, { field: id });
}

/** A piece of bars at a rate in whole notes a minute. */
export function smallPiece(
  title: string,
  rate: Fraction,
  bars: ReadonlyArray<Omit<Bar, 'tempoMarks'>>,
): Piece {
  return {
    title,
    subtitle: '',
    composer: '',
    bars: bars.map((bar, index) =>
      ofOneShape({
        ...bar,
        tempoMarks: index === 0 ? [{ atWholes: fraction(0), stated: statedAt(rate, bar.meter) }] : [],
      }),
    ),
  };
}

/** A rate as it is stated in the beat of a meter. */
export function statedAt(rate: Fraction, meter: Meter): StatedTempo {
  const unit = meterBeat(meter);
  return { unit, bpm: bpmOf(rate, noteValueLength(unit)) };
}

/** A meter of groups over a unit, printed as their total. */
export function groupedMeter(groups: readonly number[], unit: number): Meter {
  return { parts: [{ groups, unit, prints: 'total' }] };
}

/** "75.94": a tempo as it is read on a dial, with what rounding it to a whole number costs. */
export function roundedWords(bpm: Fraction, beatsABar: number): string {
  const exact = toNumber(bpm);
  const whole = Math.round(exact);
  if (whole === exact) return `${whole} exactly`;
  if (whole < 1) return decimal(exact, 3);
  const percent = (100 * (whole - exact)) / exact;
  const missMs = beatsABar * 60_000 * (1 / exact - 1 / whole);
  return `${decimal(exact, 4)}; as ${whole} it is ${decimal(Math.abs(percent), 2)} % too ${percent > 0 ? 'fast' : 'slow'}, ${decimal(Math.abs(missMs), 1)} ms over ${howMany(beatsABar, 'beat')}`;
}

/** "1 bar lasts", "12 bars last" */
export function lasting(bars: number): string {
  return `${howMany(bars, 'bar')} last${bars === 1 ? 's' : ''}`;
}

/** At most so many decimals, without zeros at the end. */
export function decimal(value: number, digits: number): string {
  return String(Number(value.toFixed(digits)));
}

/** The first refusal of some readings, or null. */
export function refusalOf(...readings: ReadonlyArray<Result<unknown>>): Result<never> | null {
  const bad = readings.find((reading) => !reading.ok);
  return bad && !bad.ok ? bad : null;
}
