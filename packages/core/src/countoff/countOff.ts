import { add, ZERO, type Fraction } from '../fraction/fraction.ts';
import { plainNumeral } from '../count/countWord.ts';
import { barLength, barStartInFullBar, type Bar, type Piece } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import { secondsOf } from '../tempo/tempoMark.ts';
import { rateAt } from '../timeline/query.ts';
import type { Timeline } from '../timeline/timeline.ts';

/** One counted beat. `bar` is the count-off's own bar, from 0; the last may be the part before a pickup. */
export interface CountOffBeat {
  readonly timeSeconds: number;
  readonly lengthSeconds: number;
  readonly word: string;
  readonly isDownbeat: boolean;
  readonly bar: number;
}

/** What is heard before an entry. Times count from its first beat; the entry falls at `lengthSeconds`. */
export interface CountOff {
  readonly beats: readonly CountOffBeat[];
  readonly lengthSeconds: number;
  readonly lengthWholes: Fraction;
  /** The rate it is counted at, in whole notes per minute: the one in force at the entry. */
  readonly rate: Fraction;
}

/**
 * Plain numerals on the pulse: `bars` full bars of the entry's meter at the tempo in force there, then,
 * before a pickup, the beats that complete its bar, so that the count runs into the entry.
 */
export function countOffFor(piece: Piece, timeline: Timeline, performed: number, bars = 1): CountOff {
  const bar = piece.bars[timeline.route.barIndex[performed] ?? -1];
  if (!bar) throw new RangeError(`there is no performed bar ${performed} to count off`);
  const rate = rateAt(timeline, { performed, atWholes: ZERO });
  const lead = leadBars(bar, bars);
  const beats: CountOffBeat[] = [];
  let start: Fraction = ZERO;
  lead.forEach((counted, index) => {
    for (const beat of pulseOf(counted)) {
      beats.push({
        timeSeconds: secondsOf(add(start, beat.atWholes), rate),
        lengthSeconds: secondsOf(beat.lengthWholes, rate),
        word: plainNumeral(beat),
        isDownbeat: beat.stress === 'downbeat',
        bar: index,
      });
    }
    start = add(start, barLength(counted));
  });
  return { beats, lengthSeconds: secondsOf(start, rate), lengthWholes: start, rate };
}

/** Full bars, and the missing first part of a pickup's bar. */
function leadBars(bar: Bar, bars: number): Bar[] {
  const full: Bar = { meter: bar.meter, tempoMarks: [] };
  const missing = barStartInFullBar(bar);
  const lead = Array.from({ length: bars }, () => full);
  if (missing.n > 0) lead.push({ ...full, partial: { keeps: 'start', lengthWholes: missing } });
  return lead;
}
