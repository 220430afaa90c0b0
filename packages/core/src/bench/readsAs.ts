import { divide, equal, fraction, multiply, ZERO, type Fraction } from '../fraction/fraction.ts';
import { meterUnit } from '../meter/meter.ts';
import { barLength, ofOneShape, type Bar, type Piece } from '../piece/piece.ts';
import { pulseOf } from '../pulse/pulse.ts';
import type { Rhythm } from '../rhythm/rhythm.ts';
import { bpmOf } from '../tempo/tempoMark.ts';
import {
  noteValue,
  noteValueLength,
  noteValueOfLengthMaybe,
  singleNoteMaybe,
  type NoteValue,
} from '../value/noteValue.ts';
import { accepted, refused, type Result } from '../problem/problem.ts';

/** Pulses a rhythm is read under, plainest first. */
const PLAIN_PULSES: readonly NoteValue[] = [noteValue('quarter'), noteValue('quarter', 1), noteValue('half')];

/** The same sound, written twice: as it stands, and under a plain pulse. As many bars each, equally long in time. */
export interface ReadsAs {
  readonly written: Piece;
  readonly plain: Piece;
  /** The note that was the beat, and the one that is. */
  readonly beatBefore: NoteValue;
  readonly beatAfter: NoteValue;
}

/** The pulses a bar can be read under other than its own. */
export function plainPulsesFor(bar: Bar): readonly NoteValue[] {
  const own = beatOf(bar);
  return PLAIN_PULSES.filter((pulse) => !equal(noteValueLength(pulse), own));
}

/** A bar and the rate it sounds at, in whole notes a minute. */
export interface SoundingBar {
  readonly bar: Bar;
  readonly rate: Fraction;
}

/**
 * Reads bars under another pulse: their beat becomes `pulse`, and with it every note, so that nothing changes in time. An
 * uneven pulse is read by its small notes. Refuses bars of different beats, and a note that cannot be written so.
 */
export function readsAs(bars: readonly SoundingBar[], pulse: NoteValue): Result<ReadsAs> {
  const [first] = bars;
  const beat = first && beatOf(first.bar);
  const beatBefore = beat && noteValueOfLengthMaybe(beat);
  if (!beat || !beatBefore) return refused('No single note lasts as long as the beat of this bar');
  if (bars.some(({ bar }) => !equal(beatOf(bar), beat)))
    return refused('These bars have different beats: read them one by one');
  const ratio = divide(noteValueLength(pulse), beat);
  const written: Bar[] = [];
  const plain: Bar[] = [];
  for (const { bar, rate } of bars) {
    const read = readBar(bar, ratio, pulse);
    if (!read.ok) return read;
    const { meter, partial, pulse: choice } = bar;
    written.push(soundingAt(rate, beatBefore, { meter, partial, pulse: choice, rhythm: rhythmOf(bar) }));
    plain.push(soundingAt(multiply(rate, ratio), pulse, read.value));
  }
  return accepted({ written: pieceOfBars(written), plain: pieceOfBars(plain), beatBefore, beatAfter: pulse });
}

/** One bar with every note so many times as long. */
function readBar(bar: Bar, ratio: Fraction, pulse: NoteValue): Result<Pick<Bar, 'meter' | 'rhythm'>> {
  const rhythm: Array<Rhythm[number]> = [];
  for (const [index, note] of rhythmOf(bar).entries()) {
    const value = singleNoteMaybe(multiply(noteValueLength(note.value), ratio));
    if (!value) return refused(`Note ${index + 1} cannot be written under this pulse: choose another`);
    rhythm.push({ ...note, value });
  }
  const beats = divide(multiply(barLength(bar), ratio), noteValueLength(pulse));
  if (beats.d !== 1) return refused('The bar does not come out in whole beats of this pulse');
  return accepted({ meter: meterOf(beats.n, pulse), rhythm });
}

/** The beat a bar is read by: its pulse where that is even, else its unit. */
function beatOf(bar: Bar): Fraction {
  const beats = pulseOf(bar);
  const first = beats[0]?.lengthWholes ?? fraction(1, 4);
  return beats.every(({ lengthWholes }) => equal(lengthWholes, first)) ? first : meterUnit(bar.meter);
}

/** The notes of a bar; where none are written its small notes. */
function rhythmOf(bar: Bar): Rhythm {
  if (bar.rhythm) return bar.rhythm;
  return pulseOf(bar).flatMap((beat) => {
    const value = singleNoteMaybe(divide(beat.lengthWholes, fraction(beat.parts)));
    return value ? Array.from({ length: beat.parts }, () => ({ value })) : [];
  });
}

function meterOf(beats: number, pulse: NoteValue): Bar['meter'] {
  const isDotted = pulse.dots === 1;
  const base = noteValueLength({ ...pulse, dots: 0 });
  const [count, unit] = isDotted ? [beats * 3, base.d * 2] : [beats, base.d];
  return { parts: [{ groups: [count], unit, prints: 'total' }] };
}

function soundingAt(rate: Fraction, unit: NoteValue, bar: Omit<Bar, 'tempoMarks' | 'label'>): Bar {
  const stated = { unit, bpm: bpmOf(rate, noteValueLength(unit)) };
  return ofOneShape({ ...bar, label: null, tempoMarks: [{ atWholes: ZERO, stated }] });
}

/** A piece of these bars; a tempo that stays is said once. */
function pieceOfBars(bars: readonly Bar[]): Piece {
  const told = (bar: Bar | undefined) => JSON.stringify(bar?.tempoMarks);
  return {
    title: '',
    subtitle: '',
    composer: '',
    bars: bars.map((bar, index) =>
      index > 0 && told(bar) === told(bars[index - 1]) ? ofOneShape({ ...bar, tempoMarks: [] }) : bar,
    ),
  };
}
