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
export const PLAIN_PULSES: readonly NoteValue[] = [
  noteValue('quarter'),
  noteValue('quarter', 1),
  noteValue('half'),
];

/** The same sound, written twice: as it stands, and under a plain pulse. One bar each, equally long in time. */
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

/**
 * Reads a bar under another pulse: its beat becomes `pulse`, and with it every note, so that nothing changes in time. An
 * uneven pulse is read by its small notes. Refuses where a note cannot be written so.
 */
export function readsAs(bar: Bar, rate: Fraction, pulse: NoteValue): Result<ReadsAs> {
  const beat = beatOf(bar);
  const beatBefore = noteValueOfLengthMaybe(beat);
  if (!beatBefore) return refused('No single note lasts as long as the beat of this bar');
  const ratio = divide(noteValueLength(pulse), beat);
  const rhythm = bar.rhythm ?? subdivisionsOf(bar);
  const plainRhythm: Array<Rhythm[number]> = [];
  for (const [index, note] of rhythm.entries()) {
    const value = singleNoteMaybe(multiply(noteValueLength(note.value), ratio));
    if (!value) return refused(`Note ${index + 1} cannot be written under this pulse: choose another`);
    plainRhythm.push({ ...note, value });
  }
  const length = multiply(barLength(bar), ratio);
  const beats = divide(length, noteValueLength(pulse));
  if (beats.d !== 1) return refused('The bar does not come out in whole beats of this pulse');
  const meter = meterOf(beats.n, pulse);
  return accepted({
    written: oneBar({ meter: bar.meter, partial: bar.partial, pulse: bar.pulse, rhythm }, rate, beatBefore),
    plain: oneBar({ meter, rhythm: plainRhythm }, multiply(rate, ratio), pulse),
    beatBefore,
    beatAfter: pulse,
  });
}

/** The beat a bar is read by: its pulse where that is even, else its unit. */
function beatOf(bar: Bar): Fraction {
  const beats = pulseOf(bar);
  const first = beats[0]?.lengthWholes ?? fraction(1, 4);
  return beats.every(({ lengthWholes }) => equal(lengthWholes, first)) ? first : meterUnit(bar.meter);
}

function subdivisionsOf(bar: Bar): Rhythm {
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

function oneBar(bar: Omit<Bar, 'tempoMarks' | 'label'>, rate: Fraction, unit: NoteValue): Piece {
  const stated = { unit, bpm: bpmOf(rate, noteValueLength(unit)) };
  return {
    title: '',
    subtitle: '',
    composer: '',
    bars: [ofOneShape({ ...bar, label: null, tempoMarks: [{ atWholes: ZERO, stated }] })],
  };
}
