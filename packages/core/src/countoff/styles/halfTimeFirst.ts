import type { CountOffStyle, PlannedBeat } from '../style.ts';

/** The first bar in half time, then in full: "1 – 2 – 1 2 3 4". Needs two bars; with one it is plain. */
export const halfTimeFirst: CountOffStyle = {
  id: 'half-time-first',
  name: 'First bar in half time',
  plan: (beats) =>
    beats.some((beat) => beat.bar > 0) ? beats.map((beat, index) => slowed(beat, index)) : beats,
};

function slowed(beat: PlannedBeat, indexInCount: number): PlannedBeat {
  if (beat.bar > 0) return beat;
  if (indexInCount % 2 === 1) return { ...beat, word: '', sound: 'silent' };
  return { ...beat, word: String(indexInCount / 2 + 1) };
}
