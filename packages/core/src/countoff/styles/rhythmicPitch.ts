import { add, divide, fraction } from '../../fraction/fraction.ts';
import { chordTonesNear } from '../pitch.ts';
import type { CountOffStyle, PlannedBeat } from '../style.ts';

/**
 * Long, short, short on chord tones of the key, near the first note: one beat long, the next in two halves. The
 * long tone is the one nearest to the first note, so that the ensemble hears where it will enter.
 */
export const rhythmicPitch: CountOffStyle = {
  id: 'rhythmic-pitch',
  name: 'On chord tones, long-short-short',
  plan: (beats, { key, settings }) => {
    const [nearest, second, third] = chordTonesNear(key, settings.firstNote);
    return beats.flatMap((beat, index) => {
      if (index % 2 === 0) return [{ ...beat, pitch: nearest }];
      return halves(beat, second, index === beats.length - 1 ? nearest : third);
    });
  },
};

function halves(beat: PlannedBeat, first: number, second: number): PlannedBeat[] {
  const half = divide(beat.lengthWholes, fraction(2));
  return [
    { ...beat, lengthWholes: half, pitch: first },
    {
      ...beat,
      atWholes: add(beat.atWholes, half),
      lengthWholes: half,
      word: '',
      isDownbeat: false,
      pitch: second,
    },
  ];
}
