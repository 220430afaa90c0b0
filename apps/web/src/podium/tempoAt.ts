import {
  bpmOf,
  fraction,
  noteValue,
  noteValueLength,
  noteValueOfLengthMaybe,
  pulseOf,
  rateAt,
  ZERO,
  type Bar,
  type StatedTempo,
  type Timeline,
} from '@anchorbeat/core';

/** The sounding tempo of a performed bar in its own beat: dotted quarters in 6/8, quarters in 4/4. */
export function tempoAt(timeline: Timeline, performed: number, bar: Bar): StatedTempo {
  const rate = rateAt(timeline, { performed, atWholes: ZERO });
  const beat = pulseOf({ meter: bar.meter, tempoMarks: [] })[0]?.lengthWholes ?? fraction(1, 4);
  const unit = noteValueOfLengthMaybe(beat) ?? noteValue('quarter');
  return { unit, bpm: bpmOf(rate, noteValueLength(unit)) };
}
