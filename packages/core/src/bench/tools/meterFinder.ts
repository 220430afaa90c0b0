import { fraction } from '../../fraction/fraction.ts';
import { applyEdit } from '../../edit/applyEdit.ts';
import type { BarSpan, Edit } from '../../edit/edit.ts';
import { formatMeter } from '../../meter/text.ts';
import type { Piece } from '../../piece/piece.ts';
import { accepted, refused, type Result } from '../../problem/problem.ts';
import {
  decimal,
  groupedMeter,
  smallPiece,
  typedCount,
  UNIT_CHOICES,
  type BenchAnswer,
  type BenchTool,
  type Typed,
  type TappedNote,
} from '../tool.ts';
import { howMany } from '../../words/howMany.ts';

/** So many strokes are looked at. */
export const MOST_STROKES = 256;
const MOST_IN_TURN = 6;

type Stroke = 'strong' | 'weak' | null;

/** Beats in even small notes, one after another; null where none is struck. */
export interface Strokes {
  readonly strokes: readonly Stroke[];
  /** Where times were given: small notes a minute at the start and at the end, and how unevenly they came. */
  readonly pace: {
    readonly startPerMinute: number;
    readonly endPerMinute: number;
    readonly unevenMs: number;
  } | null;
  /** As it was tapped, from the first tap on; empty where it was written. */
  readonly tapped: readonly TappedNote[];
}

/** Reads "X.x.X.." (capital or ! strong, small weak, a point nothing) or milliseconds with ! after the strong ones. */
export function parseStrokes(text: string): Result<Strokes> {
  const letters = text.replaceAll(/[\s|]+/g, '');
  if (/^[xX.!]+$/.test(letters) && letters.length <= MOST_STROKES)
    return accepted({ strokes: [...letters].map(strokeOf), pace: null, tapped: [] });
  const taps = text
    .trim()
    .split(/[\s,]+/)
    .map((tap) => ({ ms: Number(tap.replace(/!$/, '')), isStrong: tap.endsWith('!') }));
  const isRising = taps.every(
    ({ ms }, index) => Number.isFinite(ms) && (index === 0 || ms > (taps[index - 1]?.ms ?? 0)),
  );
  if (taps.length < 4 || taps.length > MOST_STROKES || !isRising)
    return refused(
      'Write strong and weak beats as X.x.X.., or at least four times in milliseconds with ! after the strong ones',
      { field: 'strokes' },
    );
  const gaps = taps.slice(1).map(({ ms }, index) => ms - (taps[index]?.ms ?? 0));
  const small = smallNote(gaps);
  const steps = gaps.map((gap) => Math.max(1, Math.round(gap / small)));
  const strokes: Stroke[] = [];
  taps.forEach(({ isStrong }, index) => {
    strokes.push(isStrong ? 'strong' : 'weak');
    for (let step = 1; step < (steps[index] ?? 1); step++) strokes.push(null);
  });
  const times = taps.map(({ ms }) => ms);
  const [begins = 0] = times;
  const tapped = taps.map(({ ms, isStrong }) => ({ ms: ms - begins, isStrong }));
  return accepted({ strokes, pace: paceOf(times, steps), tapped });
}

/** Strokes as `parseStrokes` reads them: milliseconds from the first, the strong ones with "!" after them. */
export function strokesText(strokes: readonly TappedNote[]): string {
  const first = strokes[0]?.ms ?? 0;
  return strokes.map(({ ms, isStrong }) => `${Math.round(ms - first)}${isStrong ? '!' : ''}`).join(' ');
}

function strokeOf(letter: string): Stroke {
  if (letter === '.') return null;
  return letter === 'x' ? 'weak' : 'strong';
}

/** The small note is no shorter than a quarter of the shortest gap. */
const MOST_SMALL_IN_GAP = 4;
/** A gap farther from a whole number of small notes than this is not made of them. */
const NEAR_WHOLE = 0.3;

/** The longest length in milliseconds of which every gap is a whole number, as far as people are even. */
function smallNote(gaps: readonly number[]): number {
  const sorted = [...gaps].sort((a, b) => a - b);
  const alike = sorted.filter((gap) => gap < 1.25 * (sorted[0] ?? 1));
  const shortest = alike[Math.floor(alike.length / 2)] ?? 1;
  const tried = Array.from({ length: MOST_SMALL_IN_GAP }, (_, index) => {
    const small = shortest / (index + 1);
    const misses = gaps.map((gap) => Math.abs(gap / small - Math.round(gap / small)));
    return { small, miss: Math.max(...misses) };
  });
  const whole = tried.find(({ miss }) => miss < NEAR_WHOLE);
  return (whole ?? tried.reduce((a, b) => (b.miss < a.miss ? b : a))).small;
}

/** A line through the taps by least squares, and how its slope changes from the first half to the second. */
function paceOf(times: readonly number[], steps: readonly number[]): Strokes['pace'] {
  let at = 0;
  const points = times.map((ms, index) => ({ ms, step: index === 0 ? 0 : (at += steps[index - 1] ?? 1) }));
  const half = Math.floor(points.length / 2);
  const whole = slopeOf(points);
  const perMinute = ({ slope }: { readonly slope: number }) => 60_000 / slope;
  const misses = points.map(({ ms, step }) => ms - whole.start - whole.slope * step);
  return {
    startPerMinute: perMinute(slopeOf(points.slice(0, half + 1))),
    endPerMinute: perMinute(slopeOf(points.slice(half))),
    unevenMs: Math.sqrt(misses.reduce((sum, miss) => sum + miss ** 2, 0) / misses.length),
  };
}

function slopeOf(points: ReadonlyArray<{ readonly ms: number; readonly step: number }>) {
  const mean = (pick: (point: (typeof points)[number]) => number) =>
    points.reduce((sum, point) => sum + pick(point), 0) / points.length;
  const [ms, step] = [mean((point) => point.ms), mean((point) => point.step)];
  const across = points.reduce((sum, point) => sum + (point.step - step) * (point.ms - ms), 0);
  const spread = points.reduce((sum, point) => sum + (point.step - step) ** 2, 0);
  const slope = spread === 0 ? 1 : across / spread;
  return { slope, start: ms - slope * step };
}

/** A likely bar, or several in turn: their groups, and how much of what was heard they explain, 0 to 1. */
export interface LikelyBars {
  readonly bars: ReadonlyArray<readonly number[]>;
  readonly share: number;
}

/**
 * Bars as they were heard: where weak beats are marked, a bar goes from one strong beat to the next and its groups from beat
 * to beat; else a group goes from strong beat to strong beat. `pickup` is what stands before the first strong beat.
 */
function heardGroups({ strokes, pace }: Strokes): {
  readonly bars: ReadonlyArray<readonly number[]>;
  readonly pickup: number;
} {
  const struck = strokes.flatMap((stroke, index) =>
    stroke ? [{ at: index, isStrong: stroke === 'strong' }] : [],
  );
  const first = struck.findIndex(({ isStrong }) => isStrong);
  if (first < 0) return { bars: [], pickup: 0 };
  const hasWeak = struck.some(({ isStrong }) => !isStrong);
  const from = struck.slice(first);
  const bars: number[][] = [];
  from.forEach(({ at, isStrong }, index) => {
    const group = (from[index + 1]?.at ?? strokes.length) - at;
    if (isStrong || !hasWeak) bars.push([group]);
    else bars.at(-1)?.push(group);
  });
  if (pace && hasWeak) completeLast(bars);
  return { bars: bars.map(plainGroups), pickup: from[0]?.at ?? 0 };
}

/** Times do not say how long the last of them lasts: as long as in the bar before that goes the same way. */
function completeLast(bars: number[][]): void {
  const last = bars.at(-1);
  const like = bars
    .slice(0, -1)
    .findLast(
      (bar) => bar.length === last?.length && bar.slice(0, -1).every((group, index) => group === last[index]),
    );
  if (last && like) last.splice(-1, 1, ...like.slice(-1));
}

/** Beats on every small note group nothing. */
function plainGroups(groups: readonly number[]): readonly number[] {
  return groups.every((group) => group === 1) ? [groups.length] : groups;
}

/** One to six bars that come again and again, the likeliest first: the fewest of those that explain as much. */
export function likelyBars(strokes: Strokes): readonly LikelyBars[] {
  const { bars } = heardGroups(strokes);
  const isOnlyStrong = !strokes.strokes.includes('weak');
  const names = bars.map((groups) => groups.join('+'));
  const found: LikelyBars[] = [];
  for (let size = 1; size <= Math.min(MOST_IN_TURN, bars.length); size++) {
    const alike = names.filter((name, index) => name === names[index % size]).length;
    const repeats = names.length / size;
    // What is heard only once is not yet a pattern.
    const belief = repeats >= 2 ? 1 : repeats / 2;
    const turn = bars.slice(0, size);
    // Without weak beats nothing says where a bar begins but that its groups come again.
    found.push({ bars: isOnlyStrong ? [turn.flat()] : turn, share: (alike / names.length) * belief });
  }
  return found.sort((a, b) => b.share - a.share || a.bars.flat().length - b.bars.flat().length);
}

/** Bars to be written: as heard, or where only strong beats are known as many groups together as come again. */
function writtenBars(strokes: Strokes, likely: LikelyBars): ReadonlyArray<readonly number[]> {
  const { bars } = heardGroups(strokes);
  if (strokes.strokes.includes('weak')) return bars;
  const groups = bars.flat();
  const size = likely.bars.flat().length;
  return Array.from({ length: Math.ceil(groups.length / size) }, (_, index) =>
    groups.slice(index * size, (index + 1) * size),
  );
}

const SURE = 0.9;

function work(typed: Typed): Result<BenchAnswer> {
  const strokes = parseStrokes(typed['strokes'] ?? '');
  const unit = typedCount(typed, 'unit', 2, 32);
  if (!strokes.ok) return strokes;
  if (!unit.ok) return unit;
  if (![2, 4, 8, 16, 32].includes(unit.value))
    return refused('The unit is 2, 4, 8, 16 or 32', { field: 'unit' });
  const likely = likelyBars(strokes.value);
  const best = likely[0];
  if (!best || strokes.value.strokes.filter((stroke) => stroke === 'strong').length < 2)
    return refused('Mark at least two strong beats: a meter is what lies between them', { field: 'strokes' });
  const meterOf = (groups: readonly number[]) => groupedMeter(groups, unit.value);
  const bars = writtenBars(strokes.value, best);
  const { pickup } = heardGroups(strokes.value);
  const named = ({ bars: turn }: LikelyBars) =>
    turn.map((groups) => formatMeter(meterOf(groups))).join(', then ');
  const { pace } = strokes.value;
  const rate = fraction(Math.round((pace?.startPerMinute ?? 240) * 100), 100 * unit.value);
  return accepted({
    says: [
      `${best.share >= SURE ? 'It is' : best.share >= 0.6 ? 'Probably' : 'Perhaps'} ${named(best)}: it explains ${Math.round(100 * best.share)} % of what was heard`,
      ...(pickup > 0 ? [`${howMany(pickup, 'small note')} before the first bar`] : []),
      `As heard: ${bars.map((groups) => groups.join('+')).join(' | ')}`,
      ...(pace
        ? [
            `${decimal(pace.startPerMinute, 1)} small notes a minute at first, ${decimal(pace.endPerMinute, 1)} at the end; ${decimal(pace.unevenMs, 1)} ms uneven`,
          ]
        : []),
    ],
    table: {
      head: ['meter', 'explains'],
      rows: likely.slice(0, 6).map((one) => [named(one), `${Math.round(100 * one.share)} %`]),
    },
    heard: {
      piece: smallPiece(
        'As heard',
        rate,
        bars.slice(0, 32).map((groups) => ({ meter: meterOf(groups) })),
      ),
      ...(strokes.value.tapped.length > 0 && { tapped: strokes.value.tapped }),
    },
    sends: [
      {
        label: `${howMany(bars.length, 'bar')} as heard, before the selected one`,
        editFor: (piece, span) => insertedBars(piece, span, bars.map(meterOf)),
      },
    ],
  });
}

function insertedBars(
  piece: Piece,
  { from }: BarSpan,
  meters: ReadonlyArray<ReturnType<typeof groupedMeter>>,
): Result<Edit> {
  let now = piece;
  for (const [index, meter] of meters.entries()) {
    const added = applyEdit(now, { kind: 'insertBars', at: from + index, count: 1, meter });
    if (!added.ok) return added;
    now = added.value.piece;
  }
  return accepted({ kind: 'replacePiece', piece: now, how: 'Bars as heard' });
}

export const meterFinder: BenchTool = {
  id: 'finder',
  name: 'Meter finder',
  says: 'Strong and weak beats, written or tapped: the likeliest meter and grouping, how sure, and the pace with its drift.',
  fields: [
    {
      id: 'strokes',
      label: 'Beats',
      usual: 'X.x.x..X.x.x..X.x.x..',
      hint: 'X strong, x weak, . nothing; or ms, ! strong',
      takesTaps: true,
      takesRecording: true,
    },
    { id: 'unit', label: 'Each a', usual: '8', hint: '8 for eighths', choices: UNIT_CHOICES },
  ],
  work,
};
