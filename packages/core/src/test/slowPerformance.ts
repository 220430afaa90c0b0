import type { Piece } from '../piece/piece.ts';
import { barLength } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import type { Route } from '../route/route.ts';
import type { Ramp, TempoMark } from '../tempo/tempoMark.ts';
import { noteValueLength } from '../value/noteValue.ts';

const STEPS = 900;

interface Stretch {
  readonly from: number;
  to: number;
  readonly startRate: number;
  endRate: number;
  readonly ramp: Ramp | null;
}

/**
 * The slow, obvious reading of timing.md for tests: lays all written bars end to end as plain numbers, makes a list of
 * stretches of tempo over them, and finds each performed bar's length by adding up many small steps of 1 / rate (Simpson's rule).
 */
export function slowPerformance(piece: Piece, route: Route): number[] {
  const lengths = piece.bars.map((bar) => toFloat(barLength(bar)));
  const starts = lengths.map((_, index) =>
    lengths.slice(0, index).reduce((total, length) => total + length, 0),
  );
  const stretches = stretchesOf(piece, starts, starts.at(-1)! + lengths.at(-1)!);
  const times = [0];
  route.barIndex.forEach((bar) => {
    const from = starts[bar]!;
    times.push(
      times.at(-1)! +
        secondsBetween(stretches, from, from + lengths[bar]!) +
        holdSeconds(piece, bar, from, stretches),
    );
  });
  return times;
}

function stretchesOf(piece: Piece, starts: readonly number[], end: number): Stretch[] {
  let steady = 24;
  let first: number | null = null;
  const stretches: Stretch[] = [{ from: 0, to: end, startRate: 24, endRate: 24, ramp: null }];
  const rateAtEnd = () => stretches.at(-1)!.endRate;
  const begin = (at: number, rate: number, ramp: Ramp | null) => {
    stretches.at(-1)!.to = at;
    stretches.push({ from: at, to: end, startRate: rate, endRate: rate, ramp });
  };
  const closeRamp = (at: number) => {
    const last = stretches.at(-1)!;
    if (!last.ramp?.target) return;
    last.to = at;
    const { target } = last.ramp;
    if (target.kind === 'tempo') last.endRate = rateOf(target.tempo);
    else if (target.kind === 'ratio') last.endRate = last.startRate * toFloat(target.ratio);
    else last.endRate = target.kind === 'a tempo' ? steady : (first ?? steady);
  };
  piece.bars.forEach((bar, index) => {
    for (const mark of bar.tempoMarks) {
      if (!mark.stated && !mark.equivalence && !mark.returns && !mark.ramp && !mark.endsRamp) continue;
      const at = starts[index]! + toFloat(mark.atWholes);
      closeRamp(at);
      const set = setBy(mark, rateAtEnd(), steady, first);
      if (set !== null) {
        steady = set;
        first ??= set;
      }
      if (mark.ramp?.target) first ??= set ?? rateAtEnd();
      begin(at, set ?? rateAtEnd(), mark.ramp?.target ? mark.ramp : null);
    }
  });
  closeRamp(end);
  return stretches;
}

function setBy(mark: TempoMark, now: number, steady: number, first: number | null): number | null {
  if (mark.equivalence) {
    return (
      (now * toFloat(noteValueLength(mark.equivalence.after))) /
      toFloat(noteValueLength(mark.equivalence.before))
    );
  }
  if (mark.stated) return rateOf(mark.stated);
  if (mark.returns === 'a tempo') return steady;
  return mark.returns === 'tempo primo' ? (first ?? steady) : null;
}

function secondsBetween(stretches: readonly Stretch[], from: number, to: number): number {
  let seconds = 0;
  for (const stretch of stretches) {
    const [a, b] = [Math.max(from, stretch.from), Math.min(to, stretch.to)];
    if (b <= a) continue;
    const width = (b - a) / STEPS;
    const paceAt = (position: number) => 60 / rateIn(stretch, position);
    for (let step = 0; step < STEPS; step++) {
      const left = a + step * width;
      seconds += (width / 6) * (paceAt(left) + 4 * paceAt(left + width / 2) + paceAt(left + width));
    }
  }
  return seconds;
}

function rateIn({ from, to, startRate, endRate, ramp }: Stretch, at: number): number {
  const share = (at - from) / (to - from);
  if (!ramp || startRate === endRate) return startRate;
  if (ramp.shape === 'even per beat') return startRate + (endRate - startRate) * share;
  if (ramp.shape === 'even ratio') return startRate * (endRate / startRate) ** share;
  return Math.sqrt(startRate ** 2 + (endRate ** 2 - startRate ** 2) * share);
}

function holdSeconds(piece: Piece, index: number, barStart: number, stretches: readonly Stretch[]): number {
  const bar = piece.bars[index]!;
  return (bar.holds ?? []).reduce((total, hold) => {
    if (hold.length.kind === 'seconds') return total + toFloat(hold.length.seconds);
    if (hold.length.kind === 'until cued') return total;
    const beat = pulseOf(bar).findLast((candidate) => toFloat(candidate.atWholes) <= toFloat(hold.atWholes))!;
    const note = hold.value
      ? toFloat(noteValueLength(hold.value))
      : toFloat(beat.lengthWholes) + toFloat(beat.atWholes) - toFloat(hold.atWholes);
    const end = barStart + Math.min(toFloat(hold.atWholes) + note, toFloat(barLength(bar)));
    const before = stretches.findLast((stretch) => stretch.from < end - 1e-12 && stretch.to > stretch.from)!;
    const rate = rateIn(before, Math.min(end, before.to));
    return total + (toFloat(hold.length.beats) * toFloat(beat.lengthWholes) * 60) / rate;
  }, 0);
}

function rateOf(tempo: NonNullable<TempoMark['stated']>): number {
  return toFloat(tempo.bpm) * toFloat(noteValueLength(tempo.unit));
}

function toFloat(value: { readonly n: number; readonly d: number }): number {
  return value.n / value.d;
}
