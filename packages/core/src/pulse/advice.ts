import {
  compare,
  divide,
  equal,
  fraction,
  multiply,
  subtract,
  sum,
  toNumber,
  type Fraction,
} from '../fraction/fraction.ts';
import { formatFraction, formatNumber } from '../fraction/text.ts';
import { isGrouped, meterLength, meterUnit, partCount, type Meter } from '../meter/meter.ts';
import type { Bar, PulseChoice } from '../piece/piece.ts';
import { bpmOf } from '../tempo/tempoMark.ts';
import { noteValueOfLengthMaybe } from '../value/noteValue.ts';
import { notesWords, noteWords, ofAWhole } from '../value/text.ts';
import { chosenBeatsMaybe } from './choice.ts';
import { commonestLength, pulseOf } from './pulse.ts';
import { inWords } from './text.ts';

/** Beats a minute that an arm can show and an ensemble can read at all. */
export const CONDUCTABLE_BPM = { slowest: 40, easiest: 84, fastest: 168 } as const;

/** While a meter's own beat lies here it is kept; the beats of compound bars carry three notes and may go slower. */
const KEPT_BPM = {
  simple: { slowest: 50, fastest: 160 },
  compound: { slowest: 45, fastest: 140 },
} as const;

/** A finer beat that is printed is taken where the meter's own would be slower than this. */
const SLOW_BPM = { simple: 60, compound: 54 } as const;

/** Where the beats of a way to beat a bar come from. */
type PulseSource =
  | 'the meter'
  | 'the groups'
  | 'the divided beat'
  | 'half bars'
  | 'the whole bar'
  | 'the neighbours'
  | 'a guessed grouping';

/** One way to beat a bar at a tempo. The rate is that of its commonest beat. */
export interface PulseOption {
  readonly beats: number;
  readonly lengths: readonly Fraction[];
  readonly bpm: Fraction;
  readonly source: PulseSource;
  readonly isConductable: boolean;
}

/** Which of them to take, and why in words. */
export interface PulseAdvice {
  readonly best: PulseOption;
  /** Every way to beat it, the coarsest first. */
  readonly options: readonly PulseOption[];
  readonly reason: string;
  /** The bar should be given a grouping: it has none, and goes too fast to be beaten in its units. */
  readonly asksGrouping: boolean;
}

/** What stands around a bar and weighs in how it is beaten. */
export interface PulseContext {
  /** Length of the note of the printed tempo mark in force, in whole notes. */
  readonly printedBeatWholes?: Fraction | null;
  /** The beat of the bars on both sides of a bar that is a little shorter or longer than they are. */
  readonly neighbourBeatWholes?: Fraction | null;
  /** Groups, in units, of the nearest bar of the same length that has some. */
  readonly neighbourGroups?: readonly number[] | null;
}

/** Compares the ways to beat a bar at a rate (whole notes per minute) and picks the one a conductor would. */
export function pulseAdvice(
  bar: Pick<Bar, 'meter'>,
  rate: Fraction,
  context: PulseContext = {},
): PulseAdvice {
  const key = [formatFraction(rate), ...Object.values(context).map((value) => JSON.stringify(value))].join(
    ' ',
  );
  const byKey = advised.get(bar.meter) ?? new Map<string, PulseAdvice>();
  advised.set(bar.meter, byKey);
  const known = byKey.get(key);
  if (known) return known;
  const advice = workedOutAdvice(bar.meter, rate, context);
  byKey.set(key, advice);
  return advice;
}

const advised = new WeakMap<Meter, Map<string, PulseAdvice>>();

interface Ways {
  readonly kept: { readonly slowest: number; readonly fastest: number };
  readonly slow: number;
  readonly own: PulseOption;
  /** Finer than the meter's own beat, the coarsest first. */
  readonly finer: readonly PulseOption[];
  /** Coarser, the finest first. */
  readonly coarser: readonly PulseOption[];
}

function workedOutAdvice(meter: Meter, rate: Fraction, context: PulseContext): PulseAdvice {
  const ways = waysOf(meter, rate, context);
  const { own, finer, coarser, kept } = ways;
  const options = [...coarser].reverse().concat(own, finer);
  const told = (best: PulseOption, because: string, asksGrouping = false): PulseAdvice => ({
    best,
    options,
    asksGrouping,
    reason: `${inWords(best.beats)}, ${beatWords(best)}: ${because}`,
  });
  if (own.source === 'the neighbours')
    return told(own, `the beat of the bars around it, with ${oddBeatWords(own)} at the end`);
  const printed = printedOptionMaybe(ways, context);
  if (printed) return told(printed, 'the tempo mark is printed for this beat');
  const bpm = toNumber(own.bpm);
  if (bpm > kept.fastest) {
    const guess = coarser.find(({ source }) => source === 'a guessed grouping');
    const slower = coarser.find((option) => toNumber(option.bpm) <= kept.fastest) ?? coarser.at(-1);
    const best = guess && toNumber(guess.bpm) <= KEPT_BPM.simple.fastest ? guess : slower;
    if (!best) return told(own, 'fast, but there is no larger beat to take');
    const fast = `${beatNote(own)} beats at ${formatNumber(own.bpm)} are faster than a hand can show`;
    if (best === guess)
      return told(best, `${fast}; say how the bar is grouped, ${groupingWords(best)} for one`, true);
    const isTooSlow = toNumber(best.bpm) < CONDUCTABLE_BPM.slowest;
    return isTooSlow ? told(own, 'fast, but any larger beat would be too slow') : told(best, fast);
  }
  const [next] = finer;
  if (bpm < kept.slowest && next)
    return told(next, `${beatNote(own)} beats at ${formatNumber(own.bpm)} are too slow to hold together`);
  return told(own, keptWords(own));
}

/** The option whose beat is the printed one, where that can be beaten and the meter's own gives way to it. */
function printedOptionMaybe(
  { own, finer, coarser, slow }: Ways,
  { printedBeatWholes }: PulseContext,
): PulseOption | null {
  if (!printedBeatWholes || isBeat(own, printedBeatWholes)) return null;
  const found = [...finer, ...coarser].find((option) => isBeat(option, printedBeatWholes));
  if (!found) return null;
  const bpm = toNumber(found.bpm);
  if (bpm < KEPT_BPM.compound.slowest || bpm > KEPT_BPM.simple.fastest) return null;
  return coarser.includes(found) || toNumber(own.bpm) < slow ? found : null;
}

function isBeat({ lengths }: PulseOption, beatWholes: Fraction): boolean {
  return lengths.every((length) => equal(length, beatWholes));
}

function waysOf(meter: Meter, rate: Fraction, { neighbourBeatWholes, neighbourGroups }: PulseContext): Ways {
  const optionOf = (lengths: readonly Fraction[], source: PulseSource) => wayOf(lengths, rate, source);
  const length = meterLength(meter);
  const unit = meterUnit(meter);
  const ownLengths = pulseOf({ meter, tempoMarks: [] }).map(({ lengthWholes }) => lengthWholes);
  const hasGroups = meter.parts.some(isGrouped) || meter.parts.length > 1;
  const inNeighbours = !hasGroups && neighbourBeatWholes ? lastBeatOdd(length, neighbourBeatWholes) : null;
  const own = inNeighbours
    ? optionOf(inNeighbours, 'the neighbours')
    : optionOf(ownLengths, hasGroups ? 'the groups' : 'the meter');
  const isCompound = ownLengths.some((beat) => !isPlain(divide(beat, unit)));
  const units = toNumber(divide(length, unit));
  const inUnits = isEven(ownLengths) && equal(ownLengths[0] as Fraction, unit);
  const finerLengths = inUnits
    ? [Array.from({ length: 2 * units }, () => divide(unit, fraction(2)))]
    : Number.isInteger(units)
      ? [Array.from({ length: units }, () => unit)]
      : [];
  const isEvenBar = isEven(ownLengths);
  const half = divide(length, fraction(2));
  const canHalve = isEvenBar && ownLengths.length % 2 === 0 && ownLengths.length > 2;
  const guess =
    !hasGroups && inUnits && units >= 5 && units % 2 === 1 ? guessedGroups(units, neighbourGroups) : null;
  const coarser = [
    ...(guess
      ? [
          optionOf(
            guess.map((count) => multiply(fraction(count), unit)),
            'a guessed grouping',
          ),
        ]
      : []),
    ...(canHalve ? [optionOf([half, half], 'half bars')] : []),
    ...(ownLengths.length > 1 ? [optionOf([length], 'the whole bar')] : []),
  ];
  const kind = isCompound && isEvenBar ? 'compound' : 'simple';
  const slowest = isCompound ? KEPT_BPM.compound.slowest : KEPT_BPM.simple.slowest;
  return {
    kept: { slowest, fastest: KEPT_BPM[kind].fastest },
    slow: SLOW_BPM[kind],
    own,
    finer: finerLengths.map((lengths) => optionOf(lengths, 'the divided beat')),
    coarser,
  };
}

/** Whether a beat of so many units divides in halves only: 1, 2 or 4 of them. */
function isPlain(units: Fraction): boolean {
  return units.d === 1 && [1, 2, 4, 8].includes(units.n);
}

function isEven(lengths: readonly Fraction[]): boolean {
  return lengths.every((length) => lengths[0] && equal(length, lengths[0]));
}

function wayOf(lengths: readonly Fraction[], rate: Fraction, source: PulseSource): PulseOption {
  const bpm = bpmOf(rate, commonestLength(lengths));
  const size = toNumber(bpm);
  return {
    beats: lengths.length,
    lengths,
    bpm,
    source,
    isConductable: size >= CONDUCTABLE_BPM.slowest && size <= CONDUCTABLE_BPM.fastest,
  };
}

/**
 * A bar in beats of its neighbours, the last one short or long by what is over; null where it is no such bar. Exactly
 * half a beat over makes the last one long: a lone half beat is no beat.
 */
export function lastBeatOdd(length: Fraction, beat: Fraction): readonly Fraction[] | null {
  const beats = toNumber(divide(length, beat));
  const whole = beats - Math.floor(beats) > 0.5 + 1e-9 ? Math.ceil(beats) : Math.floor(beats);
  if (whole < 1 || Math.abs(beats - Math.round(beats)) < 1e-9) return null;
  const before = Array.from({ length: whole - 1 }, () => beat);
  const rest = subtract(length, sum(before));
  return [...before, rest];
}

/** Twos with the three last, as is commonest, unless the neighbours are grouped otherwise. */
function guessedGroups(units: number, neighbours: readonly number[] | null | undefined): readonly number[] {
  if (neighbours && neighbours.reduce((total, count) => total + count, 0) === units) return neighbours;
  return [...Array.from({ length: (units - 3) / 2 }, () => 2), 3];
}

/** The choice that makes a bar beaten this way; null where no notes have these lengths. */
export function pulseChoiceMaybe(meter: Meter, { beats, lengths }: PulseOption): PulseChoice | null {
  const choice = { kind: 'in', beats } as const;
  const made = chosenBeatsMaybe(meter, choice);
  if (
    made?.length === lengths.length &&
    made.every((length, index) => equal(length, lengths[index] as Fraction))
  )
    return choice;
  const values = lengths.map(noteValueOfLengthMaybe);
  return values.every((value) => value !== null) ? { kind: 'values', values } : null;
}

/** The groups, in units of the meter, that beats of these lengths make of a bar; null where they are not whole. */
export function groupsOfMaybe(meter: Meter, lengths: readonly Fraction[]): readonly number[] | null {
  const unit = meterUnit(meter);
  const counts = lengths.map((length) => toNumber(divide(length, unit)));
  const isWhole = counts.every((count) => Number.isInteger(count));
  const units = meter.parts.length === 1 && meter.parts[0] ? partCount(meter.parts[0]) : 0;
  return isWhole && counts.reduce((total, count) => total + count, 0) === units ? counts : null;
}

function beatWords(option: PulseOption): string {
  return `${beatNote(option)} = ${formatNumber(option.bpm)}`;
}

function beatNote({ lengths }: PulseOption): string {
  const length = commonestLength(lengths);
  const value = noteValueOfLengthMaybe(length);
  if (value) return noteWords(value);
  const unit = noteValueOfLengthMaybe(fraction(1, length.d));
  return unit ? `${length.n} ${notesWords(unit)}` : ofAWhole(length);
}

function oddBeatWords({ lengths }: PulseOption): string {
  const [first, last] = [lengths[0], lengths.at(-1)];
  return first && last && compare(last, first) < 0 ? 'a short one' : 'a long one';
}

function groupingWords({ lengths }: PulseOption): string {
  const least = lengths.reduce((a, b) => (compare(b, a) < 0 ? b : a));
  return lengths.map((length) => formatFraction(multiply(divide(length, least), fraction(2)))).join('+');
}

function keptWords({ source }: PulseOption): string {
  return source === 'the groups'
    ? 'the groups as written, at a rate one can show'
    : 'the meter’s own beat, at a rate one can show';
}
