import {
  beatNote,
  bpmOf,
  noteValueLength,
  practiceRate,
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
  const unit = beatNote({ meter: bar.meter, tempoMarks: [] });
  return { unit, bpm: bpmOf(rate, noteValueLength(unit)) };
}
