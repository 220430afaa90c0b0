import {
  bpmOf,
  fraction,
  noteValue,
  noteValueLength,
  noteValueOfLengthMaybe,
  practiceRate,
  pulseOf,
  rateAt,
  ZERO,
  type Bar,
  type StatedTempo,
  type Timeline,
} from '@anchorbeat/core';

/** The printed tempo of a performed bar in its own beat: dotted quarters in 6/8, quarters in 4/4. */
export function tempoAt(timeline: Timeline, performed: number, bar: Bar): StatedTempo {
  return soundingTempoAt(timeline, performed, bar, 100);
}

/** The tempo that sounds at so many percent of the printed one. */
export function soundingTempoAt(
  timeline: Timeline,
  performed: number,
  bar: Bar,
  percent: number,
): StatedTempo {
  const rate = practiceRate(rateAt(timeline, { performed, atWholes: ZERO }), percent);
  const beat = pulseOf({ meter: bar.meter, tempoMarks: [] })[0]?.lengthWholes ?? fraction(1, 4);
  const unit = noteValueOfLengthMaybe(beat) ?? noteValue('quarter');
  return { unit, bpm: bpmOf(rate, noteValueLength(unit)) };
}
