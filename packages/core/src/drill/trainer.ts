import {
  compare,
  divide,
  equal,
  fraction,
  multiply,
  subtract,
  sum,
  ZERO,
  type Fraction,
} from '../fraction/fraction.ts';
import { meterLength, meterUnit, partCount, type Meter, type MeterPart } from '../meter/meter.ts';
import { formatMeter } from '../meter/text.ts';
import { barLength, ofOneShape, type Bar, type Piece } from '../piece/piece.ts';
import type { Rhythm, RhythmNote } from '../rhythm/rhythm.ts';
import { oddBarMaybe } from '../seam/oddBar.ts';
import { bpmOf } from '../tempo/tempoMark.ts';
import { noteValue, noteValueLength, noteValueOfLengthMaybe } from '../value/noteValue.ts';
import { lengthWords } from '../value/text.ts';
import { landsAfterBars } from '../bench/grid.ts';
import { leadHands, type LeadHands } from '../bench/leadHand.ts';
import { howMany } from '../words/howMany.ts';

/** What is practised on a bar of uneven length. */
export type TrainerExercise =
  /** The bar and the full bar it is nearly, in turn. */
  | { readonly kind: 'against the full bar' }
  /** The bar as it is grouped, and grouped otherwise. */
  | { readonly kind: 'groupings'; readonly groups: readonly number[] }
  /** The mistake to expect, on purpose, and then the bar as it is. */
  | { readonly kind: 'the trap' }
  /** An accent on every so-manieth small note, straight through the barlines. */
  | { readonly kind: 'displaced'; readonly every: number }
  /** Several meters one after another. */
  | { readonly kind: 'cycle'; readonly meters: readonly Meter[] };

export const TRAINER_KINDS = [
  'against the full bar',
  'groupings',
  'the trap',
  'displaced',
  'cycle',
] as const satisfies ReadonlyArray<TrainerExercise['kind']>;

/** An exercise as a small piece of its own, to be drawn and played like any other, round and round. */
export interface TrainerPiece {
  readonly piece: Piece;
  /** What each bar is, such as "full" or "one sixteenth short". */
  readonly roles: readonly string[];
  readonly soundsRhythm: boolean;
  readonly hands: LeadHands;
  /** "Lands on 1 of 4/4 after 15 bars" and the like. */
  readonly says: readonly string[];
}

/** The bar an exercise is about, and the rate it is played at in whole notes a minute. */
export interface TrainerGround {
  readonly piece: Piece;
  readonly barIndex: number;
  readonly rate: Fraction;
}

export const MOST_CYCLE_METERS = 12;

/** The full bar an odd bar is measured against: its neighbours' where it stands alone, else the next whole quarter up. */
export function fullMeterOf(piece: Piece, barIndex: number): Meter {
  const bar = piece.bars[barIndex] as Bar;
  const before = piece.bars[barIndex - 1];
  if (before && oddBarMaybe(piece, barIndex)) return before.meter;
  const quarters = multiply(barLength(bar), fraction(4));
  const whole = Math.ceil(quarters.n / quarters.d);
  return plainMeter(quarters.d === 1 ? whole + 1 : whole, 4);
}

/** Other ways to group as many units, those with the same groups in another order first; the bar's own is left out. */
export function otherGroupings(meter: Meter): ReadonlyArray<readonly number[]> {
  const part = wholePart(meter);
  const own = part.groups.length > 1 ? part.groups : inTwosAndThrees(partCount(part))[0];
  if (!own) return [];
  const all = [...permutations(own), ...inTwosAndThrees(partCount(part))];
  const seen = new Set([own.join('+')]);
  return all.filter((groups) => {
    const name = groups.join('+');
    return seen.has(name) ? false : seen.add(name);
  });
}

/** Builds an exercise on a bar. */
export function trainerPiece(ground: TrainerGround, exercise: TrainerExercise): TrainerPiece {
  switch (exercise.kind) {
    case 'against the full bar':
      return againstTheFullBar(ground);
    case 'groupings':
      return groupingsExchanged(ground, exercise.groups);
    case 'the trap':
      return trapThenRight(ground);
    case 'displaced':
      return displacedAccents(ground, exercise.every);
    case 'cycle':
      return meterCycle(ground, exercise.meters);
  }
}

function againstTheFullBar(ground: TrainerGround): TrainerPiece {
  const bar = bareBar(ground);
  const full = fullMeterOf(ground.piece, ground.barIndex);
  return made(ground, 'Against the full bar', [
    { bar: { meter: full }, role: 'full' },
    { bar, role: differenceWords(bar.meter, full) },
  ]);
}

function groupingsExchanged(ground: TrainerGround, groups: readonly number[]): TrainerPiece {
  const bar = bareBar(ground);
  const part = wholePart(bar.meter);
  const own = part.groups.length > 1 ? part.groups : (inTwosAndThrees(partCount(part))[0] ?? part.groups);
  const bars = [own, groups].map((grouping) => ({
    bar: { meter: groupedMeter(grouping, part.unit) },
    role: grouping.join('+'),
  }));
  return made(ground, 'Groupings exchanged', bars);
}

function trapThenRight(ground: TrainerGround): TrainerPiece {
  const bar = bareBar(ground);
  const full = fullMeterOf(ground.piece, ground.barIndex);
  const right = unitNotes(bar.meter);
  const trap = trappedNotes(bar.meter, full);
  const fullNotes = unitNotes(plainMeter(...countOver(full, bar.meter)));
  return made(
    ground,
    'The trap, then right',
    [
      { bar: { meter: full, rhythm: fullNotes }, role: 'full' },
      { bar: { meter: full, rhythm: trap.rhythm }, role: `the trap: ${trap.says}` },
      { bar: { meter: full, rhythm: fullNotes }, role: 'full' },
      { bar: { meter: bar.meter, rhythm: right }, role: `right: ${differenceWords(bar.meter, full)}` },
    ],
    true,
  );
}

function displacedAccents(ground: TrainerGround, every: number): TrainerPiece {
  const bar = bareBar(ground);
  const unit = meterUnit(bar.meter);
  const count = unitCount(bar.meter);
  const bars = landsAfterBars(multiply(unit, fraction(every)), meterLength(bar.meter));
  const shown = Math.min(bars, MOST_DISPLACED_BARS);
  const exercise = made(
    ground,
    `An accent on every ${every}`,
    Array.from({ length: shown }, (_, index) => {
      const rhythm = accents(unit, count, every, index * count);
      const first = rhythm.findIndex((note) => !note.isRest);
      return {
        bar: { meter: bar.meter, rhythm },
        role: first < 0 ? 'no accent' : `first accent on ${first + 1}`,
      };
    }),
    true,
  );
  return {
    ...exercise,
    says: [`The accent lands on 1 again after ${howMany(bars, 'bar')}`, ...exercise.says],
  };
}

function meterCycle(ground: TrainerGround, meters: readonly Meter[]): TrainerPiece {
  const full = fullMeterOf(ground.piece, ground.barIndex);
  const length = sum(meters.map(meterLength));
  const exercise = made(
    ground,
    'Several meters in turn',
    meters.map((meter) => ({ bar: { meter }, role: formatMeter(meter) })),
  );
  const bars = landsAfterBars(length, meterLength(full));
  const times = divide(multiply(meterLength(full), fraction(bars)), length);
  return {
    ...exercise,
    says: [
      `Lands on 1 of ${formatMeter(full)} after ${howMany(bars, 'bar')} of it: ${timesWords(times.n / times.d)} through`,
      ...exercise.says,
    ],
  };
}

const MOST_DISPLACED_BARS = 16;

interface ExerciseBar {
  readonly bar: Pick<Bar, 'meter' | 'rhythm' | 'pulse'>;
  readonly role: string;
}

function made(
  { piece, rate }: TrainerGround,
  title: string,
  bars: readonly ExerciseBar[],
  soundsRhythm = false,
): TrainerPiece {
  const quarter = noteValue('quarter');
  const stated = { unit: quarter, bpm: bpmOf(rate, noteValueLength(quarter)) };
  const finest = finestUnit(bars.map(({ bar }) => bar.meter));
  const hands = leadHands(bars.map(({ bar }) => strokesIn(bar, finest)));
  return {
    piece: {
      title,
      subtitle: '',
      composer: '',
      ...(piece.key !== undefined && { key: piece.key }),
      bars: bars.map(({ bar }, index) =>
        ofOneShape({ ...bar, label: null, tempoMarks: index === 0 ? [{ atWholes: ZERO, stated }] : [] }),
      ),
    },
    roles: bars.map(({ role }) => role),
    soundsRhythm,
    hands,
    says: [
      hands.comesRoundAfter === 1
        ? 'The same hand leads every time round'
        : 'The other hand leads the second time round; after two it comes round',
    ],
  };
}

function finestUnit(meters: readonly Meter[]): Fraction {
  return meters.map(meterUnit).reduce((finest, unit) => (compare(unit, finest) < 0 ? unit : finest));
}

/** The notes really struck; where none are written, one small note runs through all bars. */
function strokesIn({ meter, rhythm }: ExerciseBar['bar'], unit: Fraction): number {
  if (rhythm) return rhythm.filter((note, index) => !note.isRest && !rhythm[index - 1]?.isTied).length;
  const count = divide(meterLength(meter), unit);
  return count.d === 1 ? count.n : unitCount(meter);
}

function bareBar({ piece, barIndex }: TrainerGround): Pick<Bar, 'meter' | 'pulse'> {
  const bar = piece.bars[barIndex];
  if (!bar) throw new RangeError(`there is no bar ${barIndex} to train`);
  return { meter: bar.meter, pulse: bar.pulse };
}

function differenceWords(meter: Meter, full: Meter): string {
  const difference = subtract(meterLength(meter), meterLength(full));
  if (difference.n === 0) return 'as long as the full bar';
  const size = { n: Math.abs(difference.n), d: difference.d };
  return `${lengthWords(size)} ${difference.n < 0 ? 'short' : 'long'}`;
}

/** The mistake: the last three small notes as a triplet, where that fills the bar; else a small note too many or too few. */
function trappedNotes(meter: Meter, full: Meter): { readonly rhythm: Rhythm; readonly says: string } {
  const unit = meterUnit(meter);
  const missing = subtract(meterLength(full), meterLength(meter));
  const groups = wholePart(meter).groups;
  const notes = unitNotes(meter);
  const triplet = equal(missing, unit) && groups.length > 1 && groups.at(-1) === 3;
  const tripletValue = triplet && noteValueOfLengthMaybe(multiply(unit, fraction(2)));
  if (tripletValue) {
    const third: RhythmNote = { value: noteValue(tripletValue.base, 0, [{ actual: 3, normal: 2 }]) };
    return { rhythm: [...notes.slice(0, -3), third, third, third], says: 'a triplet' };
  }
  const over = divide(missing, unit);
  const name = `filled to ${formatMeter(full)}`;
  if (over.d === 1 && over.n < 0) return { rhythm: notes.slice(0, over.n), says: `${-over.n} left out` };
  const rests = over.d === 1 ? Array.from({ length: over.n }, () => restOf(unit)) : [];
  return { rhythm: [...notes, ...rests], says: name };
}

function unitNotes(meter: Meter): Rhythm {
  const value = noteValueOfLengthMaybe(meterUnit(meter));
  if (!value) return [];
  return Array.from({ length: unitCount(meter) }, () => ({ value }));
}

function restOf(lengthWholes: Fraction): RhythmNote {
  const value = noteValueOfLengthMaybe(lengthWholes);
  if (!value) throw new RangeError('no note has this length');
  return { value, isRest: true };
}

function accents(unit: Fraction, count: number, every: number, from: number): Rhythm {
  const value = noteValueOfLengthMaybe(unit);
  if (!value) return [];
  return Array.from({ length: count }, (_, index) =>
    (from + index) % every === 0 ? { value } : { value, isRest: true as const },
  );
}

/** A bar's finest units. */
function unitCount(meter: Meter): number {
  const count = divide(meterLength(meter), meterUnit(meter));
  return count.n / count.d;
}

/** A meter counted in the unit of another, such as 4/4 as 16/16. */
function countOver(meter: Meter, unitOf: Meter): readonly [count: number, unit: number] {
  const finest = compare(meterUnit(meter), meterUnit(unitOf)) < 0 ? meterUnit(meter) : meterUnit(unitOf);
  const count = divide(meterLength(meter), finest);
  return [count.n / count.d, finest.d];
}

function wholePart(meter: Meter): MeterPart {
  const first = meter.parts[0] as MeterPart;
  if (meter.parts.length === 1) return first;
  const unit = meterUnit(meter).d;
  const groups = meter.parts.flatMap((part) => part.groups.map((group) => (group * unit) / part.unit));
  return { groups, unit, prints: 'total' };
}

function plainMeter(count: number, unit: number): Meter {
  return { parts: [{ groups: [count], unit, prints: 'total' }] };
}

function groupedMeter(groups: readonly number[], unit: number): Meter {
  return { parts: [{ groups, unit, prints: 'total' }] };
}

function permutations(groups: readonly number[]): ReadonlyArray<readonly number[]> {
  if (groups.length > MOST_PERMUTED) return [];
  if (groups.length <= 1) return [groups];
  const seen = new Set<string>();
  return groups.flatMap((group, index) => {
    const rest = [...groups.slice(0, index), ...groups.slice(index + 1)];
    return permutations(rest)
      .map((others) => [group, ...others])
      .filter((order) => {
        const name = order.join('+');
        return seen.has(name) ? false : seen.add(name);
      });
  });
}

const MOST_PERMUTED = 6;

/** Every way to make a number of twos and threes, twos first; none for 1. */
function inTwosAndThrees(count: number): ReadonlyArray<readonly number[]> {
  if (count > MOST_GROUPED) return [];
  if (count === 0) return [[]];
  return [2, 3]
    .filter((group) => group <= count)
    .flatMap((group) => inTwosAndThrees(count - group).map((rest) => [group, ...rest]));
}

const MOST_GROUPED = 13;

function timesWords(times: number): string {
  return times === 1 ? 'once' : times === 2 ? 'twice' : `${times} times`;
}
