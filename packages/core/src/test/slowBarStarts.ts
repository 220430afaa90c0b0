import type { Piece } from '../piece/piece.ts';
import { barLength } from '../piece/piece.ts';
import { noteValueLength } from '../value/noteValue.ts';

/**
 * The slow, obvious reading of timing.md for tests: walks every bar and mark in floating point with
 * rates as plain numbers, adding one short piece of time after another.
 */
export function slowBarStarts(piece: Piece): number[] {
  const starts = [0];
  let rate = 96 / 4;
  let seconds = 0;
  for (const bar of piece.bars) {
    let at = 0;
    for (const mark of bar.tempoMarks) {
      const position = mark.atWholes.n / mark.atWholes.d;
      seconds += ((position - at) / rate) * 60;
      at = position;
      if (mark.equivalence) {
        const before = noteValueLength(mark.equivalence.before);
        const after = noteValueLength(mark.equivalence.after);
        rate = (rate * (after.n / after.d)) / (before.n / before.d);
      } else if (mark.stated) {
        const unit = noteValueLength(mark.stated.unit);
        rate = (mark.stated.bpm.n / mark.stated.bpm.d) * (unit.n / unit.d);
      }
    }
    const length = barLength(bar);
    seconds += ((length.n / length.d - at) / rate) * 60;
    starts.push(seconds);
  }
  return starts;
}
