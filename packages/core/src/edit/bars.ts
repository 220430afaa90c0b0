import { compare, type Fraction } from '../fraction/fraction.ts';
import { isSameMeter } from '../meter/text.ts';
import { barLabels, barName } from '../piece/labels.ts';
import { MAX_BARS, ofOneShape, type Bar, type Piece } from '../piece/piece.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';
import { inThousands } from '../words/inThousands.ts';
import type { BarSpan, Edited } from './edit.ts';

/** "bar 5" or "bars 5 to 8", by printed label. */
export function spanName(piece: Piece, { from, count }: BarSpan): string {
  const labels = barLabels(piece);
  if (count === 1) return barName(labels, from);
  const [first, last] = [labels[from], labels[from + count - 1]];
  return first && last
    ? `bars ${first} to ${last}`
    : `${barName(labels, from)} to ${barName(labels, from + count - 1)}`;
}

export function barAt(piece: Piece, index: number): Bar {
  const bar = piece.bars[index];
  if (!bar) throw new RangeError(`bar ${index} is not in a piece of ${piece.bars.length} bars`);
  return bar;
}

/** The piece with `remove` bars from `at` replaced; refuses an empty piece and one past the limit. */
export function splicedMaybe(piece: Piece, at: number, remove: number, add: readonly Bar[]): Result<Piece> {
  if (at < 0 || remove < 0 || at + remove > piece.bars.length) {
    throw new RangeError(`bars ${at} to ${at + remove} are not in a piece of ${piece.bars.length} bars`);
  }
  const length = piece.bars.length - remove + add.length;
  if (length === 0) return refused('A piece needs at least one bar: add another before you delete this one');
  if (length > MAX_BARS) {
    return refused(
      `That would make ${inThousands(length)} bars; a piece holds at most ${inThousands(MAX_BARS)}`,
    );
  }
  return accepted({ ...piece, bars: [...piece.bars.slice(0, at), ...add, ...piece.bars.slice(at + remove)] });
}

/** The bars from one on, as far as its meter lasts. */
export function meterRun({ bars }: Piece, from: number): BarSpan {
  const first = bars[from];
  if (!first) throw new RangeError(`bar ${from} is not in a piece of ${bars.length} bars`);
  const end = bars.findIndex((bar, index) => index > from && !isSameMeter(bar.meter, first.meter));
  return { from, count: (end < 0 ? bars.length : end) - from };
}

/** Whether a tempo mark or hold of a bar would stand outside it if it were only so long. */
export function standsOutside({ tempoMarks, holds = [] }: Bar, lengthWholes: Fraction): boolean {
  return [...tempoMarks, ...holds].some((mark) => compare(mark.atWholes, lengthWholes) >= 0);
}

/** The piece with one bar replaced, and the words for it. */
export function withBar(piece: Piece, index: number, bar: Bar, says: string): Result<Edited> {
  return accepted({ piece: { ...piece, bars: piece.bars.with(index, ofOneShape(bar)) }, says });
}

export function says(piece: Result<Piece>, words: string): Result<Edited> {
  return piece.ok ? accepted({ piece: piece.value, says: words }) : piece;
}
